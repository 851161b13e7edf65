import type { Watch } from '@kite-trail/core/contract/watch';
import { msToSamples } from '@kite-trail/core/trail/clock';
import type { Trail } from '@kite-trail/core/trail/trail';

/** Whoever goes back just after a beginning means the one before. */
const JUST_AFTER_SAMPLES = msToSamples(1500);

/** What is stepped by. */
export type Step = 'stroke' | 'chapter';

/** The moment a step back or on leads to, or `null` where there is none. */
export function stepFrom(moments: readonly number[], now: number, direction: 1 | -1, just = 0): number | null {
  if (direction > 0) return moments.find((at) => at > now + 1) ?? null;
  return moments.findLast((at) => at < now - Math.max(1, just)) ?? null;
}

/** When each stroke has been written: a step shows one more, or one less. */
export const strokeEnds = ({ marks }: Trail): number[] =>
  marks
    .flatMap((mark) => (mark.kind === 'ink' ? [mark.atSamples + msToSamples(mark.stroke.points.lengthMs)] : []))
    .sort((a, b) => a - b);

/** The moment a chapter before or after the one that plays begins at. */
export const chapterFrom = (chapters: Watch['chapters'], now: number, direction: 1 | -1): number | null =>
  stepFrom(
    chapters.map(({ startSamples }) => startSamples),
    now,
    direction,
    JUST_AFTER_SAMPLES,
  );
