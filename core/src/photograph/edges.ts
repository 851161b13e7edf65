import type { Brightness } from './pixels';

/** Where brightness changes, pixel by pixel. */
export interface Edges {
  widthPx: number;
  heightPx: number;
  /** How brightness grows to the right and downwards (Sobel and Feldman's operator). */
  xs: Float32Array;
  ys: Float32Array;
  /** 1 where it changes more than on either side across, and much for this picture. */
  ridge: Uint8Array;
}

/** This part of all pixels, those that change most, may be edges. */
const EDGE_SHARE = 0.12;
/** A change of less than this (of 255, by the operator's sum) is noise, whatever the picture. */
const LEAST_CHANGE = 24;

/**
 * Finds edges as Canny does without his last step: gradients of the smoothed picture, thinned to their ridges (J. Canny, "A
 * Computational Approach to Edge Detection", IEEE PAMI 8 (6), 1986).
 */
export function edgesIn(picture: Brightness): Edges {
  const { widthPx, heightPx } = picture;
  const values = smoothed(smoothed(picture.values, widthPx, heightPx), widthPx, heightPx);
  const [xs, ys, change] = [0, 1, 2].map(() => new Float32Array(values.length));
  for (let y = 1; y < heightPx - 1; y++) {
    for (let x = 1; x < widthPx - 1; x++) {
      const at = y * widthPx + x;
      const [above, below] = [at - widthPx, at + widthPx];
      const falling = values[below + 1] - values[above - 1];
      const rising = values[above + 1] - values[below - 1];
      xs[at] = falling + rising + 2 * (values[at + 1] - values[at - 1]);
      ys[at] = falling - rising + 2 * (values[below] - values[above]);
      change[at] = Math.hypot(xs[at], ys[at]);
    }
  }
  const ordered = change.slice().sort();
  const least = Math.max(LEAST_CHANGE, ordered[Math.floor(ordered.length * (1 - EDGE_SHARE))]);
  const ridge = new Uint8Array(values.length);
  for (let y = 1; y < heightPx - 1; y++) {
    for (let x = 1; x < widthPx - 1; x++) {
      const at = y * widthPx + x;
      if (change[at] < least) continue;
      const across = acrossOf(xs[at], ys[at], widthPx);
      if (change[at] >= change[at - across] && change[at] > change[at + across]) ridge[at] = 1;
    }
  }
  return { widthPx, heightPx, xs, ys, ridge };
}

/** How far the pixel lies, in the row by row order, in the direction in which brightness changes. */
function acrossOf(x: number, y: number, widthPx: number): number {
  const steep = Math.abs(y) / (Math.abs(x) + 1e-9);
  // The tangent of 22.5 degrees and of 67.5 degrees.
  if (steep < 0.4142) return 1;
  if (steep > 2.4142) return widthPx;
  return Math.sign(x) === Math.sign(y) ? widthPx + 1 : widthPx - 1;
}

/** A binomial filter of three by three. */
function smoothed(values: Float32Array, widthPx: number, heightPx: number): Float32Array {
  const along = (from: Float32Array, step: number, count: number, lineStep: number, lines: number) => {
    const to = new Float32Array(from.length);
    for (let line = 0; line < lines; line++) {
      for (let i = 0; i < count; i++) {
        const at = line * lineStep + i * step;
        const [before, after] = [i > 0 ? from[at - step] : from[at], i < count - 1 ? from[at + step] : from[at]];
        to[at] = (before + 2 * from[at] + after) / 4;
      }
    }
    return to;
  };
  return along(along(values, 1, widthPx, widthPx, heightPx), widthPx, heightPx, 1, widthPx);
}
