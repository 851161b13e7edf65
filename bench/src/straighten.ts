import { cleaned } from '@kite-trail/core/photograph/cleaned';
import { pageCorners } from '@kite-trail/core/photograph/page-corners';
import type { Pixels } from '@kite-trail/core/photograph/pixels';
import { straightened } from '@kite-trail/core/photograph/straightened';
import { photographed } from '@kite-trail/core/testing/photographed';
import { median, rounded } from './figures';

/** A photograph of eleven megapixels, as phones take them. */
const LARGER = 6;
const LONGEST_PX = 2400;
const TIMES = 5;

/** How long it takes to make a sheet of a photograph. */
export function benchStraighten(): Record<string, number> {
  const photographs = Array.from({ length: TIMES }, (_, i) => enlarged(photographed(200 + i).photograph));
  const tookMs = photographs.map((photograph) => {
    const fromMs = performance.now();
    cleaned(straightened(photograph, pageCorners(photograph)!, LONGEST_PX));
    return performance.now() - fromMs;
  });
  return { straighten_ms: rounded(median(tookMs), 0) };
}

function enlarged({ widthPx, heightPx, rgba }: Pixels): Pixels {
  const [width, height] = [widthPx * LARGER, heightPx * LARGER];
  const small = new Uint32Array(rgba.buffer);
  const large = new Uint32Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = Math.floor(y / LARGER) * widthPx;
    for (let x = 0; x < width; x++) large[y * width + x] = small[row + Math.floor(x / LARGER)];
  }
  return { widthPx: width, heightPx: height, rgba: new Uint8ClampedArray(large.buffer) };
}
