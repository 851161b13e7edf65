import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { page } from '../testing/arbitraries';
import { contactSheet } from './contact-sheet';

describe('a contact sheet', () => {
  it('has each page in reading order, whole, in its own shape and apart from all others', () => {
    fc.assert(
      fc.property(
        fc.array(page, { minLength: 1, maxLength: 40 }),
        fc.integer({ min: 200, max: 4000 }),
        (pages, widthPx) => {
          const sheet = contactSheet(pages, widthPx);
          expect(sheet.pages).toHaveLength(pages.length);
          sheet.pages.forEach(({ box }, n) => {
            const { widthPt, heightPt } = pages[n];
            expect(box.width / box.height).toBeCloseTo(widthPt / heightPt, 5);
            // Pages are placed by whole pixels.
            expect(box.x >= 0 && box.x + box.width <= widthPx + 1).toBe(true);
            expect(box.y >= 0 && box.y + box.height <= sheet.heightPx + 1).toBe(true);
            for (const { box: next } of sheet.pages.slice(n + 1)) {
              const isBeside = box.x + box.width <= next.x + 1;
              const isAbove = box.y + box.height <= next.y + 1;
              expect(isBeside || isAbove).toBe(true);
            }
          });
        },
      ),
    );
  });

  it('is about as many pages wide as high', () => {
    const wide = { widthPt: 960, heightPt: 540, leftPt: 0, topPt: 0 } as Parameters<typeof contactSheet>[0][number];
    const across = (count: number) => {
      const { pages } = contactSheet(
        Array.from({ length: count }, () => wide),
        1920,
      );
      return pages.filter(({ box }) => box.y === pages[0].box.y).length;
    };
    expect([1, 2, 4, 9, 12, 60].map(across)).toEqual([1, 2, 2, 3, 4, 6]);
  });
});
