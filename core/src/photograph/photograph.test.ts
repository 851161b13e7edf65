import { describe, expect, it } from 'vitest';
import { photographed, type Photographed } from '../testing/photographed';
import { cleaned } from './cleaned';
import { isConvex, pageCorners, type Corners } from './page-corners';
import { aspectOf } from './perspective';
import { brightnessOf, type Pixels } from './pixels';
import { straightened } from './straightened';

const PHOTOGRAPHS = Array.from({ length: 40 }, (_, i) => photographed(100 + i));
const mean = (values: readonly number[]) => values.reduce((sum, one) => sum + one, 0) / values.length;
const distance = (one: Corners[0], other: Corners[0]) => Math.hypot(one.xPx - other.xPx, one.yPx - other.yPx);

/** How far found corners are off, in parts of the page's width in the photograph. */
function errorOf(found: Corners, { corners }: { corners: Corners }): number {
  const widthPx = (distance(corners[0], corners[1]) + distance(corners[3], corners[2])) / 2;
  // A page that is turned far may be taken for one that stands on another side.
  const turned = [0, 1, 2, 3].map((by) => mean(found.map((one, i) => distance(one, corners[(i + by) % 4]))));
  return Math.min(...turned) / widthPx;
}

describe('a page in a photograph', () => {
  it('has its corners found, however it is turned, tilted and lit', () => {
    const errors = PHOTOGRAPHS.map((one) => {
      const found = pageCorners(one.photograph);
      return found ? errorOf(found, one) : 1;
    });
    expect(mean(errors)).toBeLessThan(0.01);
    expect(errors.filter((error) => error > 0.02)).toEqual([]);
  });

  it('has corners that go round, and none that cross, lie in one another or on a line', () => {
    const at = (...places: [number, number][]) => places.map(([xPx, yPx]) => ({ xPx, yPx })) as unknown as Corners;
    for (const { corners } of PHOTOGRAPHS) expect(isConvex(corners)).toBe(true);
    expect(isConvex(at([0, 0], [9, 9], [9, 0], [0, 9]))).toBe(false);
    expect(isConvex(at([0, 0], [9, 0], [9, 0], [0, 9]))).toBe(false);
    expect(isConvex(at([0, 0], [3, 0], [6, 0], [9, 0]))).toBe(false);
  });

  it('is as wide for its height as it was', () => {
    for (const { photograph, corners, aspect } of PHOTOGRAPHS) {
      expect(Math.abs(aspectOf(corners, photograph) / aspect - 1)).toBeLessThan(0.03);
    }
  });

  it('lies straight and evenly lit when it has been cleaned, with all that is written on it', () => {
    for (const one of PHOTOGRAPHS.slice(0, 12)) {
      const page = cleaned(straightened(one.photograph, one.corners, 480));
      const is = brightnessOf(page, 480);
      const [wanted, got, bare]: number[][] = [[], [], []];
      for (let y = 0; y < is.heightPx; y++) {
        for (let x = 0; x < is.widthPx; x++) {
          const [u, v] = [(x + 0.5) / is.widthPx, (y + 0.5) / is.heightPx];
          const value = is.values[y * is.widthPx + x];
          wanted.push(one.pageAt(u, v));
          got.push(value);
          // Between letters the photograph itself is grey.
          if (isBare(one, u, v)) bare.push(value);
        }
      }
      expect(correlation(wanted, got)).toBeGreaterThan(0.75);
      bare.sort((a, b) => a - b);
      // Hardly any paper is grey, wherever the shadow lay.
      expect(bare[Math.floor(bare.length * 0.05)]).toBeGreaterThan(225);
    }
  });

  it('is not seen where there is none', () => {
    const plain: Pixels = { widthPx: 320, heightPx: 240, rgba: new Uint8ClampedArray(4 * 320 * 240).fill(128) };
    expect(pageCorners(plain)).toBeNull();
    const noise = new Uint8ClampedArray(4 * 320 * 240).map((_, i) => (i * 2654435761) >>> 24);
    expect(pageCorners({ ...plain, rgba: noise })).toBeNull();
    expect(pageCorners({ widthPx: 1, heightPx: 1, rgba: new Uint8ClampedArray(4) })).toBeNull();
  });
});

const AROUND = [-3, -2, -1, 0, 1, 2, 3].map((n) => n * 0.005);
const isBare = ({ pageAt }: Photographed, u: number, v: number): boolean =>
  AROUND.every((du) => AROUND.every((dv) => pageAt(u + du, v + dv) > 200));

function correlation(one: readonly number[], other: readonly number[]): number {
  const [a, b] = [mean(one), mean(other)];
  let [ab, aa, bb] = [0, 0, 0];
  for (const [i, value] of one.entries()) {
    ab += (value - a) * (other[i] - b);
    aa += (value - a) ** 2;
    bb += (other[i] - b) ** 2;
  }
  return ab / Math.sqrt(aa * bb);
}
