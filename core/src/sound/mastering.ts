import type { TakeId } from '../lesson/ids';
import type { SoundChoice } from '../trail/edition';
import { placeSegments, voiceOf, type Programme } from '../trail/programme';
import { gainTo, integratedLoudness, loudnessRange, SAMPLES_PER_ENERGY } from './loudness';
import { mixProgramme, type TakeSound } from './mix';
import { QuietedSound, type NoiseSpectrum } from './noise';
import { PeakLimiter } from './true-peak';

/** What is known of a take's voice before it is mixed. */
export interface VoiceProfile {
  /** K-weighted mean squares of every 10 ms. */
  energies: Float32Array<ArrayBuffer>;
  noise: NoiseSpectrum;
}

/** What is done to the takes' voices when they are mixed. */
export interface Mastering {
  /** By how much each is multiplied. */
  gains: ReadonlyMap<TakeId, number>;
  /** The noise that is taken out of each; none where it stays. */
  noises: ReadonlyMap<TakeId, NoiseSpectrum>;
  isLimited: boolean;
}

export const AS_RECORDED: Mastering = { gains: new Map(), noises: new Map(), isLimited: false };

/** Common practice for speech on the web. */
export const TARGET_LUFS = -16;
/** Below −1 dBTP by what encoding adds to peaks. */
const CEILING_DBTP = -2;
/** Whatever is quieter than this is no speech to be made louder. */
const MOST_GAIN = 10 ** (30 / 20);

/**
 * How a programme's voices are mastered: each take, as far as it is heard, is brought to the same loudness, and then all
 * together to −16 LUFS.
 */
export function masteringOf(
  programme: Programme,
  { isEvened, isQuieted }: SoundChoice,
  profileOf: (take: TakeId) => VoiceProfile | undefined,
): Mastering {
  const heard = heardEnergies(programme, profileOf);
  const gains = new Map<TakeId, number>();
  if (isEvened) {
    for (const [take, energies] of heard) gains.set(take, gainFor(energies));
    const all = [...heard].flatMap(([take, energies]) => energies.map((one) => one * gains.get(take)! ** 2));
    const correction = gainFor(all);
    for (const [take, gain] of gains) gains.set(take, Math.min(MOST_GAIN, gain * correction));
  }
  const noises = new Map([...heard.keys()].map((take) => [take, profileOf(take)!.noise]));
  return { gains, noises: isQuieted ? noises : new Map(), isLimited: isEvened };
}

/** How loud a programme is as it was recorded: integrated, in LUFS, and its range, in LU. */
export function recordedLoudness(
  programme: Programme,
  profileOf: (take: TakeId) => VoiceProfile | undefined,
): { lufs: number; rangeLu: number } {
  const all = [...heardEnergies(programme, profileOf).values()].flat();
  return { lufs: integratedLoudness(all), rangeLu: loudnessRange(all) };
}

function gainFor(energies: readonly number[]): number {
  const lufs = integratedLoudness(energies);
  return Number.isFinite(lufs) ? Math.min(MOST_GAIN, gainTo(TARGET_LUFS, lufs)) : 1;
}

/** The energies of each take as far as it is heard. */
function heardEnergies(
  programme: Programme,
  profileOf: (take: TakeId) => VoiceProfile | undefined,
): Map<TakeId, number[]> {
  const heard = new Map<TakeId, number[]>();
  for (const { segment, startSamples, endSamples } of placeSegments(programme)) {
    const voice = voiceOf(segment);
    const energies = voice && profileOf(voice.take)?.energies;
    if (!voice || !energies) continue;
    const from = Math.round(voice.fromSamples / SAMPLES_PER_ENERGY);
    const to = from + Math.round((endSamples - startSamples) / SAMPLES_PER_ENERGY);
    const present = heard.get(voice.take) ?? [];
    for (const one of energies.subarray(from, to)) present.push(one);
    heard.set(voice.take, present);
  }
  return heard;
}

/** A programme's sound as viewers hear it: mono blocks, together exactly as long as the programme. */
export async function* masterProgramme(
  programme: Programme,
  sound: TakeSound,
  { gains, noises, isLimited }: Mastering,
): AsyncGenerator<Float32Array> {
  const read = noises.size > 0 ? new QuietedSound(sound, noises) : sound;
  const mixed = mixProgramme(programme, read, (take) => gains.get(take) ?? 1);
  yield* isLimited ? limited(mixed) : mixed;
}

/** Keeps true peaks below the ceiling, and time as it is. */
async function* limited(blocks: AsyncIterable<Float32Array>): AsyncGenerator<Float32Array> {
  const limiter = new PeakLimiter(CEILING_DBTP);
  let early = PeakLimiter.delaySamples;
  const inTime = (block: Float32Array) => {
    const skipped = Math.min(early, block.length);
    early -= skipped;
    return block.subarray(skipped);
  };
  for await (const block of blocks) {
    const made = inTime(limiter.process(block));
    if (made.length > 0) yield made;
  }
  const rest = inTime(limiter.process(new Float32Array(PeakLimiter.delaySamples)));
  if (rest.length > 0) yield rest;
}
