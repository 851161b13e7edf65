import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { page } from '../testing/arbitraries';
import { blankPage, grown, LEAST_SIDE_PT, PAGE_SIZES, pageRect, roomOf, withRoom } from './page';

const pt = fc.integer({ min: -300, max: 300 });
const room = fc.record({ leftPt: pt, topPt: pt, rightPt: pt, bottomPt: pt });

describe('a page', () => {
  it('is as large as the standards say', () => {
    const mm = (points: number) => (points / 72) * 25.4;
    const a4 = PAGE_SIZES.find(({ name }) => name === 'A4 upright')!;
    // ISO 216: 210 × 297 mm.
    expect(mm(a4.widthPt)).toBeCloseTo(210, 1);
    expect(mm(a4.heightPt)).toBeCloseTo(297, 1);
    // ANSI/ASME Y14.1, size A: 8.5 × 11 inches.
    const letter = PAGE_SIZES.find(({ name }) => name === 'Letter upright')!;
    expect([letter.widthPt / 72, letter.heightPt / 72]).toEqual([8.5, 11]);
  });

  it('gets room on any side without moving what lies on it', () => {
    const wide = withRoom(blankPage('page-one' as never, PAGE_SIZES[0]), {
      leftPt: 200,
      topPt: 0,
      rightPt: 0,
      bottomPt: 60,
    });
    expect(pageRect(wide)).toEqual({ left: -200, top: 0, right: 960, bottom: 600 });
  });

  it('always shows what is printed on it whole, and never gets too small', () => {
    fc.assert(
      fc.property(page, room, (one, more) => {
        const changed = withRoom(one, more);
        expect(changed.widthPt).toBeGreaterThanOrEqual(LEAST_SIDE_PT);
        expect(changed.heightPt).toBeGreaterThanOrEqual(LEAST_SIDE_PT);
        if (!changed.sheet) return;
        for (const side of Object.values(roomOf(changed))) expect(side).toBeGreaterThanOrEqual(0);
      }),
    );
  });

  it('grows downwards by half of what it was, once something reaches its foot', () => {
    const page = blankPage('page-one' as never, PAGE_SIZES[0]);
    expect(grown(page, 400)).toBe(page);
    const taller = grown(page, 500);
    expect(pageRect(taller)).toEqual({ left: 0, top: 0, right: 960, bottom: 810 });
    expect(pageRect(grown(taller, 790))).toEqual({ left: 0, top: 0, right: 960, bottom: 1080 });
  });
});
