import { pointsOf, type PassingChange } from '../lesson/mark';

/** Something seen for a while: fading ink, or something pointed at. */
export interface Passing {
  change: PassingChange;
  /** How long ago it began. */
  sinceMs: number;
}

/** Fading ink stays so long once it is written, and then fades so long. */
const INK_STAYS_MS = 3000;
const INK_FADES_MS = 700;
const POINTER_FADES_MS = 250;

const staysMs = (change: PassingChange) => (change.kind === 'ink' ? INK_STAYS_MS : 0);
const fadesMs = (change: PassingChange) => (change.kind === 'ink' ? INK_FADES_MS : POINTER_FADES_MS);

/** How long something that passes is seen, from its beginning. */
export const passingMs = (change: PassingChange): number =>
  (pointsOf(change)?.lengthMs ?? 0) + staysMs(change) + fadesMs(change);

/** No pen and no pointer is down longer without an end than this, as far as seeking must look back. */
export const LONGEST_PASSING_MS = INK_STAYS_MS + INK_FADES_MS;

/** How much of it is still to be seen: 1 at first, 0 when it has gone. */
export function remainingShare({ change, sinceMs }: Passing): number {
  const left = passingMs(change) - sinceMs;
  return Math.min(1, Math.max(0, left / fadesMs(change)));
}
