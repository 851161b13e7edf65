import type { TakeId } from '../lesson/ids';
import type { Stretch } from '../trail/edit';
import { placeSegments, programmeLength, voiceOf, type Programme } from '../trail/programme';
import { gainTo, integratedLoudness, SAMPLES_PER_ENERGY } from './loudness';
import { SAMPLES_PER_PEAK } from './peaks';

/** What is known of a take's voice before it is mixed. */
export interface VoiceLevels {
  /** K-weighted mean squares of every 10 ms. */
  energies: Float32Array<ArrayBuffer>;
  /** The highest of every 2.5 ms, as bytes: 255 is full scale. */
  peaks: Uint8Array<ArrayBuffer>;
}

/** What is heard of a programme, 10 ms after 10 ms in the order in which it plays; columns of one length. */
export interface HeardLevels {
  take: TakeId[];
  atSamples: number[];
  energy: number[];
  /** The highest sample, 1 for full scale. */
  peak: number[];
}

const PEAKS_PER_ENERGY = SAMPLES_PER_ENERGY / SAMPLES_PER_PEAK;

/** The levels of a programme's voices, as far as each is heard and known. */
export function heardLevels(programme: Programme, levelsOf: (take: TakeId) => VoiceLevels | undefined): HeardLevels {
  const heard: HeardLevels = { take: [], atSamples: [], energy: [], peak: [] };
  for (const { segment, startSamples, endSamples } of placeSegments(programme)) {
    const voice = voiceOf(segment);
    const levels = voice && levelsOf(voice.take);
    if (!voice || !levels) continue;
    const from = Math.round(voice.fromSamples / SAMPLES_PER_ENERGY);
    const to = Math.min(levels.energies.length, from + Math.round((endSamples - startSamples) / SAMPLES_PER_ENERGY));
    for (let i = from; i < to; i++) {
      heard.take.push(voice.take);
      heard.atSamples.push(startSamples + (i - from) * SAMPLES_PER_ENERGY);
      heard.energy.push(levels.energies[i]);
      let peak = 0;
      for (let n = i * PEAKS_PER_ENERGY; n < (i + 1) * PEAKS_PER_ENERGY; n++)
        peak = Math.max(peak, levels.peaks[n] ?? 0);
      heard.peak.push(peak / 255);
    }
  }
  return heard;
}

/** Sound is a little higher between its samples than at them: common practice for speech. */
const BETWEEN_SAMPLES = 1.06;
/** How much a limiter that is up again within 80 ms recovers in 10 ms. */
const RECOVERY = 1 - Math.exp(-10 / 80);

/** By how much a limiter multiplies each 10 ms, about: it turns down at once and recovers slowly. */
function limiterGains({ take, peak }: HeardLevels, gainOf: (take: TakeId) => number, ceiling: number): Float32Array {
  const gains = new Float32Array(peak.length);
  let gain = 1;
  for (let i = 0; i < peak.length; i++) {
    const height = peak[i] * BETWEEN_SAMPLES * gainOf(take[i]);
    gain = Math.min(height > ceiling ? ceiling / height : 1, gain + (1 - gain) * RECOVERY);
    gains[i] = gain;
  }
  return gains;
}

/** The loudness of what is heard when each voice is multiplied and all together are limited, in LUFS. */
function limitedLoudness(heard: HeardLevels, gainOf: (take: TakeId) => number, ceiling: number): number {
  const limiter = limiterGains(heard, gainOf, ceiling);
  return integratedLoudness(heard.energy.map((energy, i) => energy * (gainOf(heard.take[i]) * limiter[i]) ** 2));
}

/** Whatever is quieter than this is no speech to be made louder. */
const MOST_GAIN = 10 ** (30 / 20);
/** Limiting takes loudness away from speech, which is made up; where it takes more than this, there is little speech. */
const MOST_MADE_UP = 10 ** (8 / 20);
const ROUNDS = 8;
const NEAR_LU = 0.05;

/**
 * By how much each take's voice is to be multiplied so that all come to one loudness, and all together, limited, to it, too.
 * @param targetLufs for one channel (ITU-R BS.1770-4, equation 2)
 * @param ceiling what no peak passes, 1 for full scale
 */
export function evenedGains(heard: HeardLevels, targetLufs: number, ceiling: number): Map<TakeId, number> {
  const energies = new Map<TakeId, number[]>();
  heard.take.forEach((take, i) => {
    const own = energies.get(take);
    if (own) own.push(heard.energy[i]);
    else energies.set(take, [heard.energy[i]]);
  });
  const own = new Map([...energies].map(([take, all]) => [take, gainFor(all, targetLufs)]));
  const gainsWith = (more: number) => new Map([...own].map(([take, gain]) => [take, Math.min(MOST_GAIN, gain * more)]));
  let more = 1;
  for (let round = 0; round < ROUNDS; round++) {
    const gains = gainsWith(more);
    const lufs = limitedLoudness(heard, (take) => gains.get(take)!, ceiling);
    const isAtMost = [...gains.values()].every((gain) => gain === MOST_GAIN);
    if (!Number.isFinite(lufs) || Math.abs(lufs - targetLufs) < NEAR_LU || isAtMost) break;
    more *= gainTo(targetLufs, lufs);
    // Knocks and claps are mostly peak: made louder and louder they would only be crushed, with all their noise before them.
    if (more > MOST_MADE_UP) return own;
  }
  return gainsWith(more);
}

function gainFor(energies: readonly number[], targetLufs: number): number {
  const lufs = integratedLoudness(energies);
  return Number.isFinite(lufs) ? Math.min(MOST_GAIN, gainTo(targetLufs, lufs)) : 1;
}

const WINDOW_SAMPLES = 96_000;

/**
 * Where a programme comes nearest to its ceiling, or is limited most: stretches of two seconds at most, in their order.
 * @param count how many
 */
export function hottestStretches(
  programme: Programme,
  heard: HeardLevels,
  gainOf: (take: TakeId) => number,
  ceiling: number,
  count: number,
): Stretch[] {
  const limiter = limiterGains(heard, gainOf, ceiling);
  const heat = new Map<number, number>();
  heard.atSamples.forEach((at, i) => {
    const window = Math.floor(at / WINDOW_SAMPLES);
    const height = heard.peak[i] * gainOf(heard.take[i]) * limiter[i];
    heat.set(window, Math.max(heat.get(window) ?? 0, height + (1 - limiter[i])));
  });
  const hottest = [...heat].sort(([, one], [, other]) => other - one).slice(0, count);
  const lengthSamples = programmeLength(programme);
  return hottest
    .map(([window]) => window)
    .sort((one, other) => one - other)
    .map((window) => ({
      fromSamples: window * WINDOW_SAMPLES,
      toSamples: Math.min(lengthSamples, (window + 1) * WINDOW_SAMPLES),
    }));
}
