import type { Corners } from './page-corners';
import { aspectOf, perspectiveOf, seenAt, type Perspective } from './perspective';
import type { Pixels } from './pixels';

/** At its edges a photographed page is mixed with what it lies on: so many pixels of it are left out. */
const EDGE_PX = 1.25;

/**
 * A page as it would lie straight before one's eyes.
 * @param corners as `pageCorners` finds them, or as somebody has placed them
 * @param longestPx of the longer side; no larger than the page is in the photograph
 */
export function straightened(photograph: Pixels, corners: Corners, longestPx: number): Pixels {
  const aspect = aspectOf(corners, photograph);
  const [top, right, bottom, left] = corners.map(({ xPx, yPx }, i) => {
    const next = corners[(i + 1) % 4];
    return Math.hypot(next.xPx - xPx, next.yPx - yPx);
  });
  const seenPx = Math.max(top, bottom, (left + right) / 2, aspect * Math.max(left, right));
  const longest = Math.min(longestPx, aspect >= 1 ? seenPx : seenPx / aspect);
  const [widthPx, heightPx] = aspect >= 1 ? [longest, longest / aspect] : [longest * aspect, longest];
  const size = { widthPx: Math.max(1, Math.round(widthPx)), heightPx: Math.max(1, Math.round(heightPx)) };
  return asSeen(photograph, perspectiveOf(corners), size, EDGE_PX / seenPx);
}

/** @param edge what is left out all around, as a part of the page's width */
function asSeen(
  photograph: Pixels,
  perspective: Perspective,
  { widthPx, heightPx }: { widthPx: number; heightPx: number },
  edge: number,
): Pixels {
  const across = (1 - 2 * edge) / widthPx;
  const down = (1 - 2 * edge) / heightPx;
  const rgba = new Uint8ClampedArray(4 * widthPx * heightPx);
  for (let y = 0; y < heightPx; y++) {
    for (let x = 0; x < widthPx; x++) {
      const { xPx, yPx } = seenAt(perspective, edge + (x + 0.5) * across, edge + (y + 0.5) * down);
      mix(photograph, xPx - 0.5, yPx - 0.5, rgba, 4 * (y * widthPx + x));
    }
  }
  return { widthPx, heightPx, rgba };
}

/** Mixes the four pixels around a place; beyond the edges, those at the edge. */
function mix({ widthPx, heightPx, rgba }: Pixels, xPx: number, yPx: number, into: Uint8ClampedArray, at: number): void {
  const x = Math.min(widthPx - 1, Math.max(0, xPx));
  const y = Math.min(heightPx - 1, Math.max(0, yPx));
  const left = Math.floor(x);
  const top = Math.floor(y);
  const u = x - left;
  const v = y - top;
  const here = 4 * (top * widthPx + left);
  const right = left + 1 < widthPx ? here + 4 : here;
  const below = top + 1 < heightPx ? 4 * widthPx : 0;
  for (let channel = 0; channel < 3; channel++) {
    const upper = rgba[here + channel] * (1 - u) + rgba[right + channel] * u;
    const lower = rgba[here + below + channel] * (1 - u) + rgba[right + below + channel] * u;
    into[at + channel] = upper * (1 - v) + lower * v;
  }
  into[at + 3] = 255;
}
