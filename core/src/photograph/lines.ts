import type { Edges } from './edges';
import type { PlacePx } from './pixels';

/** All places for which x·cos + y·sin is `fromOriginPx`. */
export interface Line {
  cos: number;
  sin: number;
  fromOriginPx: number;
}

const ANGLES = 180;
/** An edge votes for lines that lie as it does, within so many degrees. */
const VOTES_AROUND_DEG = 3;
/** Lines that are as near to a stronger one as this are the same. */
const SAME_WITHIN_DEG = 5;
const SAME_WITHIN_PX = 6;
const MOST_LINES = 28;

/**
 * The straight lines on which most edges lie, the strongest first (R. Duda, P. Hart, "Use of the Hough Transformation to Detect Lines and
 * Curves in Pictures", CACM 15 (1), 1972). Edges vote only for lines along which they run.
 */
export function linesAlong({ widthPx, heightPx, xs, ys, ridge }: Edges): Line[] {
  const reach = Math.ceil(Math.hypot(widthPx, heightPx));
  const votes = new Float32Array(ANGLES * (2 * reach + 1));
  const turns = Array.from({ length: ANGLES }, (_, deg) => ({
    cos: Math.cos((deg * Math.PI) / ANGLES),
    sin: Math.sin((deg * Math.PI) / ANGLES),
  }));
  for (let at = 0; at < ridge.length; at++) {
    if (!ridge[at]) continue;
    const [x, y] = [(at % widthPx) + 0.5, Math.floor(at / widthPx) + 0.5];
    const deg = Math.round((Math.atan2(ys[at], xs[at]) * ANGLES) / Math.PI);
    for (let turn = deg - VOTES_AROUND_DEG; turn <= deg + VOTES_AROUND_DEG; turn++) {
      const angle = (turn + 2 * ANGLES) % ANGLES;
      const distance = Math.round(x * turns[angle].cos + y * turns[angle].sin);
      votes[angle * (2 * reach + 1) + distance + reach]++;
    }
  }
  return strongest(votes, reach, Math.min(widthPx, heightPx) / 8).map(({ deg, distancePx }) => ({
    ...turns[deg],
    fromOriginPx: distancePx,
  }));
}

function strongest(votes: Float32Array, reach: number, least: number): { deg: number; distancePx: number }[] {
  const found: { deg: number; distancePx: number; count: number }[] = [];
  const width = 2 * reach + 1;
  for (let i = 0; i < votes.length; i++) {
    if (votes[i] >= least) found.push({ deg: Math.floor(i / width), distancePx: (i % width) - reach, count: votes[i] });
  }
  found.sort((a, b) => b.count - a.count);
  const kept: typeof found = [];
  for (const one of found) {
    if (kept.length === MOST_LINES) break;
    if (!kept.some((other) => isSame(one, other))) kept.push(one);
  }
  return kept;
}

/** A line turned by half a turn is the same at the other side of the origin. */
function isSame(one: { deg: number; distancePx: number }, other: { deg: number; distancePx: number }): boolean {
  const apart = Math.abs(one.deg - other.deg);
  if (apart <= SAME_WITHIN_DEG) return Math.abs(one.distancePx - other.distancePx) <= SAME_WITHIN_PX;
  return ANGLES - apart <= SAME_WITHIN_DEG && Math.abs(one.distancePx + other.distancePx) <= SAME_WITHIN_PX;
}

/** Where two lines meet; `null` where they hardly do. */
export function meeting(one: Line, other: Line): PlacePx | null {
  const turn = one.cos * other.sin - one.sin * other.cos;
  if (Math.abs(turn) < 0.05) return null;
  return {
    xPx: (one.fromOriginPx * other.sin - other.fromOriginPx * one.sin) / turn,
    yPx: (other.fromOriginPx * one.cos - one.fromOriginPx * other.cos) / turn,
  };
}

/** The angle between two lines, in degrees from 0 to 90. */
export const angleBetweenDeg = (one: Line, other: Line): number =>
  (Math.acos(Math.min(1, Math.abs(one.cos * other.cos + one.sin * other.sin))) * 180) / Math.PI;
