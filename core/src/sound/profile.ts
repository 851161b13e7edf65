import { joinBytes } from '../formats/bytes';
import { CLOCK_HZ } from '../trail/clock';
import type { Stretch } from '../trail/edit';
import { joinSamples } from './join';
import { EnergyGatherer } from './loudness';
import type { VoiceProfile } from './mastering';
import { NoiseGatherer, noiseOf, type NoisePart } from './noise';
import { PeakGatherer, SAMPLES_PER_PEAK } from './peaks';
import { speechIn } from './speech';

/** All that is found out about a take's voice. */
export interface TakeProfile extends VoiceProfile {
  /** The highest of every 2.5 ms, as bytes. */
  peaks: Uint8Array<ArrayBuffer>;
  /** Where somebody speaks. */
  speech: Stretch[];
}

/** What was heard of a voice: some minutes in a row. Those that end a take may end with a minute that is not whole. */
export interface HeardVoice {
  /** The highest of every 2.5 ms, as bytes. */
  peaks: Uint8Array<ArrayBuffer>;
  /** The K-weighted mean square of every 10 ms. */
  energies: Float32Array<ArrayBuffer>;
  /** The noise, minute by minute. */
  noise: NoisePart[];
}

export const NOTHING_HEARD: HeardVoice = { peaks: new Uint8Array(), energies: new Float32Array(), noise: [] };

/** Whole numbers of peaks, of energies and of the noise's frames lie in a minute. */
const MINUTE_SAMPLES = 60 * CLOCK_HZ;
/** The filters of loudness settle while so much is heard before a part. */
const LEAD_SAMPLES = CLOCK_HZ;

/** How long what was heard is, in samples; the last peak may stand for a little less. */
export const heardSamples = ({ peaks }: HeardVoice): number => peaks.length * SAMPLES_PER_PEAK;

/** Puts together what was heard of a voice in turn. */
export const joinHeard = (parts: readonly HeardVoice[]): HeardVoice => ({
  peaks: joinBytes(parts.map(({ peaks }) => peaks)),
  energies: joinSamples(parts.map(({ energies }) => energies)),
  noise: parts.flatMap(({ noise }) => noise),
});

/**
 * What of a take is still to be heard, in parts that can be listened to side by side.
 * @returns where each begins and ends, in samples; the last has no end, for a take may go on longer than is known
 */
export function unheard(heard: HeardVoice, lengthSamples: number, mostParts: number): Stretch[] {
  const from = heardSamples(heard);
  const isWhole = from > 0 && (from % MINUTE_SAMPLES !== 0 || from >= lengthSamples);
  if (isWhole) return [];
  const minutes = Math.max(1, Math.ceil((lengthSamples - from) / MINUTE_SAMPLES));
  const each = Math.ceil(minutes / mostParts);
  const count = Math.ceil(minutes / each);
  const beginning = (n: number) => from + n * each * MINUTE_SAMPLES;
  return Array.from({ length: count }, (_, n) => ({
    fromSamples: beginning(n),
    toSamples: n + 1 < count ? beginning(n + 1) : Infinity,
  }));
}

/**
 * Listens minute by minute, while the sound of a take, or of a part that begins at `fromSamples`, a whole minute, streams in.
 * Each minute is told without the others, so a take is known alike in however many parts it is listened to.
 */
export class ProfileGatherer {
  private readonly peaks = new PeakGatherer();
  private readonly energies = new EnergyGatherer();
  private readonly noise = new NoiseGatherer();
  private readonly minutes: HeardVoice[] = [];
  private inMinute = 0;
  private leadLeft: number;
  /** Where listening begins: a little before the part. */
  readonly beginSamples: number;

  constructor(fromSamples = 0) {
    this.leadLeft = Math.min(fromSamples, LEAD_SAMPLES);
    this.beginSamples = fromSamples - this.leadLeft;
  }

  /** Takes samples of −1 to 1 at 48 kHz that follow one another, from `beginSamples` on. */
  add(samples: Float32Array): void {
    let at = this.settle(samples);
    while (at < samples.length) {
      const own = samples.subarray(at, at + MINUTE_SAMPLES - this.inMinute);
      this.peaks.add(own);
      this.energies.add(own);
      this.noise.add(own);
      this.inMinute += own.length;
      at += own.length;
      if (this.inMinute === MINUTE_SAMPLES) this.endMinute();
    }
  }

  /** The minutes that are over, each told once. */
  takeMinutes(): HeardVoice[] {
    return this.minutes.splice(0);
  }

  /** What has not been taken yet, up to the end. */
  finish(): HeardVoice {
    if (this.inMinute > 0) this.endMinute();
    return joinHeard(this.takeMinutes());
  }

  /** Hears what comes before the part. @returns how many of the samples that were */
  private settle(samples: Float32Array): number {
    const lead = Math.min(this.leadLeft, samples.length);
    if (lead === 0) return 0;
    this.energies.add(samples.subarray(0, lead));
    this.leadLeft -= lead;
    if (this.leadLeft === 0) this.energies.take();
    return lead;
  }

  private endMinute(): void {
    const energies = this.energies.take();
    this.minutes.push({ peaks: this.peaks.take(), energies, noise: this.noise.take(speechIn(energies)) });
    this.inMinute = 0;
  }
}

/** What is known of a voice that was heard from its beginning on. */
export function profileOf({ peaks, energies, noise }: HeardVoice): TakeProfile {
  return { peaks, energies, speech: speechIn(energies), noise: noiseOf(noise) };
}
