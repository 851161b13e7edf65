import type { PageId } from '../../lesson/ids';
import type { Mark } from '../../lesson/mark';
import type { Stroke } from '../../lesson/piece';
import { msToSamples } from '../../trail/clock';

/** Longer pauses are made this long: a sheet may have been written over days. */
export const LONGEST_PAUSE_MS = 10_000;
/** Before the first stroke, and after the last. */
const ENDS_MS = 500;
/** Nobody replays more; and a clock that is wrong says so, too. */
const LONGEST_REPLAY_MS = 24 * 3600 * 1000;

/** A stroke that tells when it was written. */
export interface TimedStroke {
  page: PageId;
  stroke: Stroke;
  /** When it began, on its file's clock. */
  atMs: number;
}

/** Ink as it was written. */
export interface Replay {
  /** In order; the page is turned to wherever something is written. */
  marks: Mark[];
  lengthSamples: number;
}

/**
 * Ink written again as its file says: each stroke at its own time and speed, but for long pauses.
 * @param shown the page that is shown when it begins
 * @returns `null` where it does not tell: all began at one time, or it would take more than a day
 */
export function replayOf(strokes: readonly TimedStroke[], shown: PageId): Replay | null {
  const inOrder = strokes.toSorted((a, b) => a.atMs - b.atMs);
  const [first, last] = [inOrder.at(0), inOrder.at(-1)];
  if (!first || !last || first.atMs === last.atMs) return null;
  const marks: Mark[] = [];
  // When the ink so far ends, on the file's clock and in the replay.
  let [endMs, endsAtMs, page] = [first.atMs, ENDS_MS, shown];
  for (const { page: on, stroke, atMs } of inOrder) {
    const beginsAtMs = endsAtMs + Math.min(LONGEST_PAUSE_MS, atMs - endMs);
    const atSamples = Math.max(marks.at(-1)?.atSamples ?? 0, msToSamples(beginsAtMs));
    if (on !== page) marks.push({ kind: 'turn', page: (page = on), atSamples });
    marks.push({ kind: 'ink', page, stroke, atSamples });
    const lastsMs = stroke.points.sinceMs[stroke.points.count - 1];
    endMs = Math.max(endMs, atMs + lastsMs);
    endsAtMs = Math.max(endsAtMs, beginsAtMs + lastsMs);
    if (endsAtMs > LONGEST_REPLAY_MS) return null;
  }
  return { marks, lengthSamples: msToSamples(endsAtMs + ENDS_MS) };
}
