import { secondsToSamples } from '../trail/clock';
import type { Stretch } from '../trail/edit';

/** Somebody who breathes between two words has not ended a phrase. */
const LEAST_QUIET_SAMPLES = secondsToSamples(0.35);
/** Quieter than this share of loud speech is no speech; both are square roots of peaks, so it is 20 dB. Common practice. */
const QUIET_SHARE = 0.32;
/** Speech is as loud as its loudest tenth. */
const LOUD_RANK = 0.9;

/**
 * The stretches between phrases in which nobody speaks, in order.
 * @param loudness from step to step of the whole, a byte each, as `ribbonOf` sees it; empty where nobody is heard at all
 */
export function quietIn(loudness: Uint8Array, lengthSamples: number): Stretch[] {
  if (lengthSamples <= 0) return [];
  const heard = loudness.filter((one) => one > 0).sort();
  if (heard.length === 0) return [{ fromSamples: 0, toSamples: lengthSamples }];
  const least = QUIET_SHARE * heard[Math.floor(heard.length * LOUD_RANK)];
  const at = (step: number) => Math.round((step / loudness.length) * lengthSamples);
  const quiet: Stretch[] = [];
  let from = 0;
  for (let step = 0; step <= loudness.length; step++) {
    if (step < loudness.length && loudness[step] < least) continue;
    if (at(step) - at(from) >= LEAST_QUIET_SAMPLES) quiet.push({ fromSamples: at(from), toSamples: at(step) });
    from = step + 1;
  }
  return quiet;
}

/** A phrase that began longer ago is not heard from its beginning. */
const LONGEST_BACK_SAMPLES = secondsToSamples(6);
const LEAD_SAMPLES = secondsToSamples(0.6);

/** Where to begin so that what is said at a moment is heard from the phrase's beginning. @param quiet as of `quietIn` */
export function phraseStart(quiet: readonly Stretch[], atSamples: number): number {
  const before = quiet.findLast(({ fromSamples }) => fromSamples <= atSamples);
  const isWithin = before !== undefined && before.toSamples > atSamples;
  const start =
    before && !isWithin && atSamples - before.toSamples <= LONGEST_BACK_SAMPLES ? before.toSamples : atSamples;
  return Math.max(0, Math.min(start, atSamples - LEAD_SAMPLES));
}
