import type { TakeId } from '../lesson/ids';
import { slice, type Stretch } from '../trail/edit';
import type { SoundChoice } from '../trail/edition';
import type { Programme } from '../trail/programme';
import { evenedGains, heardLevels, hottestStretches, type VoiceLevels } from './evening';
import { integratedLoudness, loudnessRange } from './loudness';
import { mixProgramme, type TakeSound } from './mix';
import { QuietedSound, type NoiseSpectrum } from './noise';
import { PeakLimiter } from './true-peak';

/** What is known of a take's voice before it is mixed. */
export interface VoiceProfile extends VoiceLevels {
  noise: NoiseSpectrum;
}

/** What is done to the takes' voices when they are mixed. */
export interface Mastering {
  /** By how much each is multiplied. */
  gains: ReadonlyMap<TakeId, number>;
  /** The noise that is taken out of each; none where it stays. */
  noises: ReadonlyMap<TakeId, NoiseSpectrum>;
  /** What true peaks are kept below, in dBTP; `null` where they stay as they are. */
  ceilingDb: number | null;
  /** Where it comes nearest to that. */
  hottest: readonly Stretch[];
}

export const AS_RECORDED: Mastering = { gains: new Map(), noises: new Map(), ceilingDb: null, hottest: [] };

/**
 * Common practice for speech on the web, of what a listener hears: our one channel comes out of two loudspeakers, which adds
 * 3 LU to what a meter reads of the channel alone (ITU-R BS.1770-4, equation 3; meters call it "dual mono").
 */
export const TARGET_LUFS = -16;
/** Of one channel of two that are alike. */
const IN_ONE_CHANNEL_LU = 10 * Math.log10(2);
/** No peak of what is served passes it (EBU R 128). */
export const HIGHEST_PEAK_DBTP = -1;
/** What a codec adds to the peaks of speech at most, as a rule: a ceiling that is that much lower will mostly do. */
const CEILING_DBTP = HIGHEST_PEAK_DBTP - 2.5;
/** Whoever asks what a codec makes of it need not listen to all. */
const HOTTEST_STRETCHES = 8;

/**
 * How a programme's voices are mastered: each take, as far as it is heard, is brought to the same loudness, and then all
 * together to −16 LUFS, after they are limited.
 * @param ceilingDb what true peaks are kept below, where it is known how much its codec adds
 */
export function masteringOf(
  programme: Programme,
  { isEvened, isQuieted }: SoundChoice,
  profileOf: (take: TakeId) => VoiceProfile | undefined,
  ceilingDb = CEILING_DBTP,
): Mastering {
  const heard = heardLevels(programme, profileOf);
  const ceiling = 10 ** (ceilingDb / 20);
  const gains = isEvened ? evenedGains(heard, TARGET_LUFS - IN_ONE_CHANNEL_LU, ceiling) : new Map<TakeId, number>();
  const noises = new Map([...new Set(heard.take)].map((take) => [take, profileOf(take)!.noise]));
  return {
    gains,
    noises: isQuieted ? noises : new Map(),
    ceilingDb: isEvened ? ceilingDb : null,
    hottest: isEvened
      ? hottestStretches(programme, heard, (take) => gains.get(take) ?? 1, ceiling, HOTTEST_STRETCHES)
      : [],
  };
}

/** The hottest stretches of a programme, one after the other: what they come to, all of it does, about. */
export const hottestOf = (programme: Programme, { hottest }: Mastering): Programme =>
  hottest.flatMap(({ fromSamples, toSamples }) => slice(programme, fromSamples, toSamples));

/** How loud a programme is as it was recorded, heard from two loudspeakers: integrated, in LUFS, and its range, in LU. */
export function recordedLoudness(
  programme: Programme,
  profileOf: (take: TakeId) => VoiceProfile | undefined,
): { lufs: number; rangeLu: number } {
  const { energy } = heardLevels(programme, profileOf);
  return { lufs: integratedLoudness(energy) + IN_ONE_CHANNEL_LU, rangeLu: loudnessRange(energy) };
}

/** A programme's sound as viewers hear it: mono blocks, together exactly as long as the programme. */
export async function* masterProgramme(
  programme: Programme,
  sound: TakeSound,
  { gains, noises, ceilingDb }: Mastering,
): AsyncGenerator<Float32Array> {
  const read = noises.size > 0 ? new QuietedSound(sound, noises) : sound;
  const mixed = mixProgramme(programme, read, (take) => gains.get(take) ?? 1);
  yield* ceilingDb === null ? mixed : limited(mixed, ceilingDb);
}

/** Keeps true peaks below the ceiling, and time as it is. */
async function* limited(blocks: AsyncIterable<Float32Array>, ceilingDb: number): AsyncGenerator<Float32Array> {
  const limiter = new PeakLimiter(ceilingDb);
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
