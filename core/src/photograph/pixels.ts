/** A picture as browsers and canvases have it: red, green, blue and opacity, a byte each, row by row. */
export interface Pixels {
  widthPx: number;
  heightPx: number;
  rgba: Uint8ClampedArray<ArrayBuffer>;
}

/** How bright a picture is, row by row, from 0 to 255. */
export interface Brightness {
  widthPx: number;
  heightPx: number;
  values: Float32Array;
}

/** A place of a picture. The middle of the first pixel lies at (0.5, 0.5). */
export interface PlacePx {
  xPx: number;
  yPx: number;
}

/** Luma of red, green and blue (ITU-R BT.709-6, item 3.2). */
const [RED, GREEN, BLUE] = [0.2126, 0.7152, 0.0722];

/**
 * How bright a picture is, made smaller where it is large: each value is the mean of the pixels it stands for.
 * @param longestPx of the longer side
 */
export function brightnessOf({ widthPx, heightPx, rgba }: Pixels, longestPx: number): Brightness {
  const scale = Math.min(1, longestPx / Math.max(widthPx, heightPx));
  const [width, height] = [widthPx, heightPx].map((side) => Math.max(1, Math.round(side * scale)));
  const sums = new Float32Array(width * height);
  const counts = new Uint32Array(width * height);
  for (let y = 0; y < heightPx; y++) {
    const row = Math.floor((y * height) / heightPx) * width;
    for (let x = 0; x < widthPx; x++) {
      const at = row + Math.floor((x * width) / widthPx);
      const from = 4 * (y * widthPx + x);
      sums[at] += RED * rgba[from] + GREEN * rgba[from + 1] + BLUE * rgba[from + 2];
      counts[at]++;
    }
  }
  return { widthPx: width, heightPx: height, values: sums.map((sum, i) => sum / counts[i]) };
}

/** The brightness at a place, between the pixels around it; beyond the edges, as at the edge. */
export function brightnessAt({ widthPx, heightPx, values }: Brightness, { xPx, yPx }: PlacePx): number {
  const x = Math.min(widthPx - 1, Math.max(0, xPx - 0.5));
  const y = Math.min(heightPx - 1, Math.max(0, yPx - 0.5));
  const [left, top] = [Math.floor(x), Math.floor(y)];
  const [right, bottom] = [Math.min(left + 1, widthPx - 1), Math.min(top + 1, heightPx - 1)];
  const [u, v] = [x - left, y - top];
  const upper = values[top * widthPx + left] * (1 - u) + values[top * widthPx + right] * u;
  const lower = values[bottom * widthPx + left] * (1 - u) + values[bottom * widthPx + right] * u;
  return upper * (1 - v) + lower * v;
}
