import fc from 'fast-check';
import { strokeTouched } from '@kite-trail/core/ink/hit';
import type { PageId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { BLANK_PAPER, blankPage } from '@kite-trail/core/lesson/page';
import type { Piece, Stroke } from '@kite-trail/core/lesson/piece';
import { isEmptyRect } from '@kite-trail/core/lesson/rect';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { placesOf } from '@kite-trail/core/lesson/touch';
import { paintPage } from '@kite-trail/core/paint/painter';
import type { Images } from '@kite-trail/core/paint/picture';
import { fitPage } from '@kite-trail/core/paint/surface';
import { base, marks, page, stroke, TAKE_SAMPLES } from '@kite-trail/core/testing/arbitraries';
import { differenceBetween } from '@kite-trail/core/trail/difference';
import { Timeline, type Moment } from '@kite-trail/core/trail/timeline';
import { createCanvas } from '@napi-rs/canvas';
import { describe, expect, it } from 'vitest';

/**
 * A rasteriser works out the coverage of a path's soft edge in coarse steps, and differently when the path is clipped (17
 * levels of 255 were seen). Ink left over or missing would differ by most of the range.
 */
const EDGE_LEVELS = 64;
const SIZE = { widthPx: 480, heightPx: 270 };

function surface() {
  const context = createCanvas(SIZE.widthPx, SIZE.heightPx).getContext('2d');
  return { context, pixels: () => context.getImageData(0, 0, SIZE.widthPx, SIZE.heightPx).data };
}

/** One picture for all: soft waves, so that resampling it in part or whole gives the same. */
function waves() {
  const canvas = createCanvas(64, 48);
  const context = canvas.getContext('2d');
  for (let x = 0; x < 64; x++) {
    context.fillStyle = `hsl(${x * 3} 60% 60%)`;
    context.fillRect(x, 0, 1, 48);
  }
  return canvas;
}
/** No two strokes are written with one id. */
function withOwnIds(marks: readonly Mark[]): Mark[] {
  const written = new Set<string>();
  return marks.filter((mark) => {
    if (mark.kind !== 'ink') return true;
    const isNew = !written.has(mark.stroke.id);
    written.add(mark.stroke.id);
    return isNew;
  });
}

const drawable = { image: waves(), widthPx: 64, heightPx: 48 };
const IMAGES: Images = { find: () => drawable };

const SIZE_PT = { widthPt: SIZE.widthPx, heightPt: SIZE.heightPx };

/** Pixels near the places where a stroke was written: there most is to be seen. */
const pixelsOf = (ink: Stroke, pxPerPt: number) =>
  placesOf(ink)
    .map(({ xPt, yPt }) => ({ x: Math.round(xPt * pxPerPt) - 2, y: Math.round(yPt * pxPerPt) - 2 }))
    .filter(({ x, y }) => x >= 0 && y >= 0 && x <= SIZE.widthPx - 5 && y <= SIZE.heightPx - 5);

/** The middle of five by five pixels, and three places near it. */
const MIDDLES = [
  [2.5, 2.5],
  [2.6, 2.5],
  [2.5, 2.6],
  [2.6, 2.6],
] as const;

const whole = surface();

describe('painting', () => {
  it('ink where it is touched, and touches it where it is painted', () => {
    const still = { page: blankPage('page' as PageId, SIZE_PT, BLANK_PAPER), pieces: [] as Piece[] };
    const placement = fitPage(still.page, SIZE);
    const place = fc.record({ x: fc.nat(SIZE.widthPx - 5), y: fc.nat(SIZE.heightPx - 5) });
    fc.assert(
      fc.property(stroke, fc.array(place, { minLength: 20, maxLength: 20 }), (one, places) => {
        // Where dashes have gaps, the line is touched all the same.
        fc.pre(one.pen.kind !== 'dashed');
        const ink: Stroke = { ...one, opacity: 1, pen: { ...one.pen, color: '#000000' } };
        paintPage(whole.context, { ...still, pieces: [ink] }, placement);
        for (const { x, y } of [...places, ...pixelsOf(ink, placement.pxPerPt)]) {
          // Five by five pixels that are alike have no edge in their middle.
          const { data } = whole.context.getImageData(x, y, 5, 5);
          const inked = Array.from({ length: 25 }, (_, i) => data[4 * i] < 250);
          if (inked.some((is) => is !== inked[0])) continue;
          // Ink thinner than a fiftieth of a pixel is too faint to be seen: a tenth of a pixel beside it, it is not touched.
          const isTouched = MIDDLES.every(([acrossPx, downPx]) => {
            const at = { xPt: (x + acrossPx) / placement.pxPerPt, yPt: (y + downPx) / placement.pxPerPt };
            return strokeTouched(ink, at, at, 0);
          });
          expect(isTouched).toBe(inked[0]);
        }
      }),
    );
  });

  it('again what is there changes nothing, however small the page is shown', () => {
    fc.assert(
      fc.property(page, fc.integer({ min: 20, max: 480 }), (one, widthPx) => {
        const state = { page: one, pieces: [] };
        const placement = fitPage(one, { widthPx, heightPx: SIZE.heightPx });
        const paint = () => {
          paintPage(whole.context, state, placement, IMAGES);
          return whole.pixels();
        };
        const once = paint();
        expect(Buffer.compare(Buffer.from(once), Buffer.from(paint()))).toBe(0);
      }),
      { numRuns: 60 },
    );
  });
});

describe('painting only what differs', () => {
  it('gives the picture that painting everything gives', () => {
    fc.assert(
      fc.property(marks, fc.array(fc.nat(TAKE_SAMPLES), { minLength: 2, maxLength: 6 }), (some, times) => {
        const timeline = new Timeline(base, { lengthSamples: TAKE_SAMPLES, marks: withOwnIds(some) });
        let last: Moment | null = null;
        // What other tests have painted beside a narrower page stays.
        const [kept, whole] = [surface(), surface()];
        for (const time of times) {
          const moment = timeline.at(time);
          const state = shownPage(moment.scene);
          const placement = fitPage(state.page, SIZE);
          const difference = last ? differenceBetween(last, moment) : 'whole';
          last = moment;
          const region = difference === 'whole' ? undefined : difference;
          if (!region || !isEmptyRect(region)) paintPage(kept.context, state, placement, IMAGES, moment, region);
          paintPage(whole.context, state, placement, IMAGES, moment);
          const [a, b] = [kept.pixels(), whole.pixels()];
          let worst = 0;
          for (let i = 0; i < a.length; i++) worst = Math.max(worst, Math.abs(a[i] - b[i]));
          expect(worst).toBeLessThanOrEqual(EDGE_LEVELS);
        }
      }),
      { numRuns: 30 },
    );
  });
});
