import type { TakeId } from '../lesson/ids';
import { CLOCK_HZ } from '../trail/clock';
import type { Stretch } from '../trail/edit';
import { placeSegments, voiceOf, type Programme } from '../trail/programme';
import type { PeakLevels } from './peaks';

/** Where a step stands for more than a syllable, the highest peaks alone would all be the same: then it is how they are on the whole. */
const SYLLABLE_SAMPLES = 0.2 * CLOCK_HZ;
const MOST_LOOKS = 8;

/**
 * How loud the voice of a programme is seen to be, from step to step of a stretch: the square root of its peaks, which lets quiet
 * speech be seen beside loud.
 * @param peaks of the takes that are heard; one that is missing is silent
 * @returns 0 to 1 for each step
 */
export function ribbonOf(
  programme: Programme,
  peaks: ReadonlyMap<TakeId, PeakLevels>,
  { fromSamples, toSamples }: Stretch,
  steps: number,
): Float32Array {
  const placed = placeSegments(programme).filter((one) => one.endSamples > one.startSamples);
  const samplesPerStep = (toSamples - fromSamples) / steps;
  const ribbon = new Float32Array(steps);
  let n = 0;
  for (let step = 0; step < steps; step++) {
    const at = Math.floor(fromSamples + step * samplesPerStep);
    while (n + 1 < placed.length && placed[n].endSamples <= at) n++;
    const voice = placed[n] && voiceOf(placed[n].segment);
    const take = voice ? peaks.get(voice.take) : undefined;
    if (take) ribbon[step] = loudnessSeen(take, voice!.fromSamples + at - placed[n].startSamples, samplesPerStep);
  }
  return ribbon;
}

function loudnessSeen(take: PeakLevels, fromSamples: number, lengthSamples: number): number {
  const looks = Math.max(1, Math.min(MOST_LOOKS, Math.round(lengthSamples / SYLLABLE_SAMPLES)));
  const step = lengthSamples / looks;
  let sum = 0;
  for (let n = 0; n < looks; n++) sum += Math.sqrt(take.highest(fromSamples + n * step, fromSamples + (n + 1) * step));
  return sum / looks;
}
