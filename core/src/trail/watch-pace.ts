import { msToSamples, secondsToSamples } from './clock';
import type { Stretch } from './edit';
import { drawnIn, lengthOf } from './quiet';
import type { Trail } from './trail';

/** How fast a student watches. */
export interface WatchPace {
  /** Speech, and all that is not said otherwise: a factor. */
  voice: number;
  /** Writing while nobody speaks: a factor. */
  ink: number;
  /** How many times as long the pauses between phrases are, so that there is time to think. */
  pauses: number;
}

export const USUAL_PACE: WatchPace = { voice: 1, ink: 1, pauses: 1 };

/** In a pause nobody waits for less. */
const LEAST_WRITING_SAMPLES = secondsToSamples(2);
/** A phrase's last sound fades, and the next one begins, at the usual speed. */
const EDGE_SAMPLES = msToSamples(60);

/** Where somebody writes and nobody speaks for some seconds, and where there are pauses between phrases. Both in order. */
export interface Silences {
  writing: readonly Stretch[];
  pauses: readonly Stretch[];
}

/** @param quiet stretches in which nobody speaks, in order */
export function silencesIn(trail: Trail, quiet: readonly Stretch[]): Silences {
  const drawn = drawnIn(trail);
  const isWritten = (gap: Stretch) =>
    lengthOf(gap) >= LEAST_WRITING_SAMPLES &&
    drawn.some(({ fromSamples, toSamples }) => fromSamples < gap.toSamples && toSamples > gap.fromSamples);
  return { writing: quiet.filter(isWritten), pauses: quiet.filter((gap) => !isWritten(gap)) };
}

/** How fast it goes at a moment. */
export function speedAt({ writing, pauses }: Silences, pace: WatchPace, atSamples: number): number {
  if (pace.ink !== pace.voice && isWithin(writing, atSamples)) return pace.ink;
  return pace.pauses > 1 && isWithin(pauses, atSamples) ? pace.voice / pace.pauses : pace.voice;
}

function isWithin(stretches: readonly Stretch[], atSamples: number): boolean {
  const one = stretches.findLast(({ fromSamples }) => fromSamples + EDGE_SAMPLES <= atSamples);
  return one !== undefined && atSamples < one.toSamples - EDGE_SAMPLES;
}
