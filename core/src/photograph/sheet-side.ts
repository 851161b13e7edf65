import type { Line } from './lines';
import { brightnessAt, type Brightness, type PlacePx } from './pixels';

/** A side is looked for so far from where it seems to be, in pixels of the fine picture. */
const SEARCHED_PX = 9;
const SEARCH_STEP_PX = 0.5;
/** Near its corners other sides disturb it. */
const FROM_CORNER = 0.05;
const FINE_STATIONS = 80;
const FITTED_TIMES = 8;
/** What lies further from the line than so many times the middle deviation counts for nothing (J. Tukey's biweight; from memory). */
const BIWEIGHT = 4.7;

/**
 * The line along which brightness changes most, near a side of a sheet.
 * @param from where the side seems to begin @param to where it seems to end, in pixels of the picture
 */
export function sideThrough(picture: Brightness, from: PlacePx, to: PlacePx): Line {
  const length = Math.hypot(to.xPx - from.xPx, to.yPx - from.yPx);
  const along = { x: (to.xPx - from.xPx) / length, y: (to.yPx - from.yPx) / length };
  const at = (t: number, off: number): PlacePx => ({
    xPx: from.xPx + along.x * t * length - along.y * off,
    yPx: from.yPx + along.y * t * length + along.x * off,
  });
  const profiles = Array.from({ length: FINE_STATIONS }, (_, i) => {
    const t = FROM_CORNER + ((1 - 2 * FROM_CORNER) * (i + 0.5)) / FINE_STATIONS;
    const changes: number[] = [];
    for (let off = -SEARCHED_PX; off <= SEARCHED_PX; off += SEARCH_STEP_PX) {
      changes.push(brightnessAt(picture, at(t, off + 1)) - brightnessAt(picture, at(t, off - 1)));
    }
    return { t, changes };
  });
  // The edge of the sheet is brighter on one and the same hand.
  const sum = profiles.reduce((all, { changes }) => all + changes.reduce((one, change) => one + change, 0), 0);
  const places = profiles.map(({ t, changes }) => {
    const signed = changes.map((change) => change * Math.sign(sum));
    const most = signed.indexOf(Math.max(...signed));
    return { t: t * length, off: -SEARCHED_PX + (most + vertex(signed, most)) * SEARCH_STEP_PX };
  });
  const { slope, off } = fitted(places);
  // Through two places of the fitted line.
  const [one, other] = [at(0, off), at(1, off + slope * length)];
  const span = Math.hypot(other.xPx - one.xPx, other.yPx - one.yPx);
  const [cos, sin] = [-(other.yPx - one.yPx) / span, (other.xPx - one.xPx) / span];
  return { cos, sin, fromOriginPx: one.xPx * cos + one.yPx * sin };
}

/** How far the top of a parabola through three values lies from the middle one. */
function vertex(values: readonly number[], at: number): number {
  if (at === 0 || at === values.length - 1) return 0;
  const bend = values[at - 1] - 2 * values[at] + values[at + 1];
  return bend === 0 ? 0 : (values[at - 1] - values[at + 1]) / (2 * bend);
}

/** A straight line through places of which some are wrong, by least squares that are weighed anew. */
function fitted(places: readonly { t: number; off: number }[]): { slope: number; off: number } {
  let weights = places.map(() => 1);
  let line = { slope: 0, off: median(places.map(({ off }) => off)) };
  for (let time = 0; time < FITTED_TIMES; time++) {
    const errors = places.map(({ t, off }) => Math.abs(off - line.off - line.slope * t));
    const reach = BIWEIGHT * Math.max(0.3, median(errors) / 0.6745);
    weights = errors.map((error) => (error < reach ? (1 - (error / reach) ** 2) ** 2 : 0));
    line = leastSquares(places, weights);
  }
  return line;
}

function leastSquares(places: readonly { t: number; off: number }[], weights: readonly number[]) {
  let [w, t, o, tt, to] = [0, 0, 0, 0, 0];
  for (const [i, { t: at, off }] of places.entries()) {
    const weight = weights[i];
    w += weight;
    t += weight * at;
    o += weight * off;
    tt += weight * at * at;
    to += weight * at * off;
  }
  const spread = w * tt - t * t;
  const slope = spread > 0 ? (w * to - t * o) / spread : 0;
  return { slope, off: w > 0 ? (o - slope * t) / w : 0 };
}

const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
