import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { page as anyPage } from '../testing/arbitraries';
import { MOST_ZOOM, moved, scaleOf, viewWithin, viewport, wholeOf } from './view';

const length = fc.integer({ min: 200, max: 2400 });
const box = fc.record({ widthPx: length, heightPx: length });
const share = fc.double({ min: 0, max: 1, noNaN: true });
const gesture = fc.record({
  factor: fc.double({ min: 0.2, max: 5, noNaN: true }),
  from: fc.record({ x: share, y: share }),
  to: fc.record({ x: share, y: share }),
});

describe('looking at a part of a page', () => {
  it('never shows anything beside the page, and no less than all of it', () => {
    fc.assert(
      fc.property(anyPage, box, fc.array(gesture, { maxLength: 8 }), (page, around, gestures) => {
        let view = wholeOf(page);
        for (const { factor, from, to } of gestures) {
          const at = (place: { x: number; y: number }) => ({
            xPx: place.x * around.widthPx,
            yPx: place.y * around.heightPx,
          });
          view = moved(page, around, view, { factor, from: at(from), to: at(to) });
          const { widthPx, heightPx, placement } = viewport(page, around, view);
          expect(view.zoom).toBeGreaterThanOrEqual(1);
          expect(placement.leftPx + page.leftPt * placement.pxPerPt).toBeLessThan(1);
          expect(placement.topPx + page.topPt * placement.pxPerPt).toBeLessThan(1);
          expect(placement.leftPx + (page.leftPt + page.widthPt) * placement.pxPerPt).toBeGreaterThan(widthPx - 1);
          expect(placement.topPx + (page.topPt + page.heightPt) * placement.pxPerPt).toBeGreaterThan(heightPx - 1);
        }
      }),
    );
  });

  it('keeps what is under the fingers under them', () => {
    const page = { leftPt: -100, topPt: 0, widthPt: 960, heightPt: 540 };
    const around = { widthPx: 1200, heightPx: 800 };
    const placeAt = (view: ReturnType<typeof wholeOf>, xPx: number, yPx: number) => {
      const pxPerPt = scaleOf(page, around, view);
      return [view.xPt + (xPx - around.widthPx / 2) / pxPerPt, view.yPt + (yPx - around.heightPx / 2) / pxPerPt];
    };
    const first = moved(page, around, wholeOf(page), {
      factor: 4,
      from: { xPx: 500, yPx: 420 },
      to: { xPx: 500, yPx: 420 },
    });
    expect(first.zoom).toBe(4);
    const second = moved(page, around, first, {
      factor: 1.1,
      from: { xPx: 500, yPx: 420 },
      to: { xPx: 540, yPx: 400 },
    });
    const [x, y] = placeAt(first, 500, 420);
    expect(placeAt(second, 540, 400)).toEqual([expect.closeTo(x, 6), expect.closeTo(y, 6)]);
  });

  it('goes no farther than can be of use, but lets a very tall page fill its box', () => {
    const around = { widthPx: 800, heightPx: 600 };
    const wide = { leftPt: 0, topPt: 0, widthPt: 800, heightPt: 600 };
    expect(viewWithin(wide, around, { ...wholeOf(wide), zoom: 99 }).zoom).toBe(MOST_ZOOM);
    const tall = { leftPt: 0, topPt: 0, widthPt: 800, heightPt: 12_000 };
    const view = viewWithin(tall, around, { ...wholeOf(tall), zoom: 20 });
    expect(scaleOf(tall, around, view)).toBe(1);
    expect(viewport(tall, around, view)).toMatchObject({ widthPx: 800, heightPx: 600 });
  });
});
