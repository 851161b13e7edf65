import type { Pixels } from './pixels';

/** The light on a page is told from fields of this part of its longer side. */
const FIELD_SHARE = 1 / 40;
/** In a field most is paper: as bright as this part of its pixels are not. */
const PAPER_RANK = 0.85;
/**
 * A field that is darker than this part of one beside it is covered, such as by a picture, and has that one's light: shadows grow dark over
 * several fields.
 */
const COVERED = 0.7;
/** Paper is a little less than white before it is cleaned, and ink a little more than black. */
const WHITE = 0.93;
const BLACK = 0.08;

/**
 * A photographed page with even light on white paper: every colour is told against that of the paper around it, so shadows and the lamp's
 * tint go; then paper becomes white and ink dark.
 */
export function cleaned(page: Pixels): Pixels {
  const { widthPx, heightPx, rgba } = page;
  const fieldPx = Math.max(8, Math.round(Math.max(widthPx, heightPx) * FIELD_SHARE));
  const [columns, rows] = [Math.ceil(widthPx / fieldPx), Math.ceil(heightPx / fieldPx)];
  const lights = [0, 1, 2].map((channel) => lightOn(page, channel, fieldPx, columns, rows));
  const out = new Uint8ClampedArray(rgba.length);
  for (let y = 0; y < heightPx; y++) {
    const down = between(y, fieldPx, rows);
    for (let x = 0; x < widthPx; x++) {
      const across = between(x, fieldPx, columns);
      const left = Math.floor(across);
      const u = across - left;
      const top = Math.floor(down);
      const v = down - top;
      const here = top * columns + left;
      const right = left + 1 < columns ? here + 1 : here;
      const below = top + 1 < rows ? columns : 0;
      const at = 4 * (y * widthPx + x);
      for (let channel = 0; channel < 3; channel++) {
        const light = lights[channel];
        const upper = light[here] * (1 - u) + light[right] * u;
        const lower = light[here + below] * (1 - u) + light[right + below] * u;
        const share = rgba[at + channel] / Math.max(1, upper * (1 - v) + lower * v);
        out[at + channel] = 255 * Math.min(1, Math.max(0, (share - BLACK) / (WHITE - BLACK)));
      }
      out[at + 3] = 255;
    }
  }
  return { widthPx, heightPx, rgba: out };
}

/** Between the middles of which fields a pixel lies. */
const between = (px: number, fieldPx: number, count: number): number =>
  Math.min(count - 1, Math.max(0, (px + 0.5) / fieldPx - 0.5));

/** How bright the paper is in each field, in one colour. */
function lightOn({ widthPx, heightPx, rgba }: Pixels, channel: number, fieldPx: number, columns: number, rows: number) {
  const light = new Float32Array(columns * rows);
  const counts = new Uint32Array(256);
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      counts.fill(0);
      let all = 0;
      for (let y = row * fieldPx; y < Math.min(heightPx, (row + 1) * fieldPx); y++) {
        for (let x = column * fieldPx; x < Math.min(widthPx, (column + 1) * fieldPx); x++) {
          counts[rgba[4 * (y * widthPx + x) + channel]]++;
          all++;
        }
      }
      let [level, below] = [0, counts[0]];
      while (below < PAPER_RANK * all) below += counts[++level];
      light[row * columns + column] = level;
    }
  }
  return evened(uncovered(light, columns, rows), columns, rows);
}

/** Covered fields get the light of the brightest beside them, from the edge of what covers them inwards. */
function uncovered(light: Float32Array, columns: number, rows: number): Float32Array {
  const open = light.slice();
  let before: Float32Array;
  do {
    before = open.slice();
    for (let at = 0; at < open.length; at++) {
      const [column, row] = [at % columns, Math.floor(at / columns)];
      const brightest = Math.max(
        column > 0 ? before[at - 1] : 0,
        column < columns - 1 ? before[at + 1] : 0,
        row > 0 ? before[at - columns] : 0,
        row < rows - 1 ? before[at + columns] : 0,
      );
      if (before[at] < COVERED * brightest) open[at] = brightest;
    }
  } while (open.some((one, at) => one !== before[at]));
  return open;
}

/** The mean of each field and those around it, twice: light changes slowly. */
function evened(light: Float32Array, columns: number, rows: number): Float32Array {
  let now = light;
  for (let time = 0; time < 2; time++) {
    now = now.map((_, i) => {
      const [column, row] = [i % columns, Math.floor(i / columns)];
      let [sum, count] = [0, 0];
      for (let y = Math.max(0, row - 1); y <= Math.min(rows - 1, row + 1); y++) {
        for (let x = Math.max(0, column - 1); x <= Math.min(columns - 1, column + 1); x++) {
          sum += now[y * columns + x];
          count++;
        }
      }
      return sum / count;
    });
  }
  return now;
}
