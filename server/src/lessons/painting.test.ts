import fc from 'fast-check';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { isEmptyRect } from '@kite-trail/core/lesson/rect';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import type { Images } from '@kite-trail/core/paint/picture';
import { fitPage } from '@kite-trail/core/paint/surface';
import { base, marks, page, TAKE_SAMPLES } from '@kite-trail/core/testing/arbitraries';
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

const kept = surface();
const whole = surface();

describe('painting', () => {
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
