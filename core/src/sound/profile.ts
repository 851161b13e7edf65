import { joinBytes } from '../trail/assemble';
import { CLOCK_HZ } from '../trail/clock';
import type { Stretch } from '../trail/edit';
import { joinSamples } from './join';
import { EnergyGatherer, SAMPLES_PER_ENERGY } from './loudness';
import type { VoiceProfile } from './mastering';
import { NoiseGatherer, noiseApartFrom, type NoiseFrame } from './noise';
import { PeakGatherer } from './peaks';
import { speechIn } from './speech';

/** All that is found out about a take's voice. */
export interface TakeProfile extends VoiceProfile {
  /** The highest of every 2.5 ms, as bytes. */
  peaks: Uint8Array<ArrayBuffer>;
  /** Where somebody speaks. */
  speech: Stretch[];
}

/** What is found out about a part of a take before the others are known. */
export interface ProfilePart {
  peaks: Uint8Array<ArrayBuffer>;
  energies: Float32Array<ArrayBuffer>;
  noise: NoiseFrame[];
}

/** Where a take is divided: whole numbers of peaks, of energies and of the noise's frames lie between. */
const PART_SAMPLES = CLOCK_HZ;
/** The filters of loudness settle while so much is heard before a part. */
const LEAD_SAMPLES = CLOCK_HZ;

/**
 * Divides a take into parts that can be listened to side by side.
 * @returns where each begins and ends, in samples; the last has no end, for a take may go on longer than is known
 */
export function profileParts(lengthSamples: number, parts: number): Stretch[] {
  const each = Math.ceil(lengthSamples / parts / PART_SAMPLES) * PART_SAMPLES;
  const count = Math.max(1, Math.ceil(lengthSamples / Math.max(PART_SAMPLES, each)));
  return Array.from({ length: count }, (_, n) => ({
    fromSamples: n * each,
    toSamples: n + 1 < count ? (n + 1) * each : Infinity,
  }));
}

/** Finds it out in one pass, while the sound of a take, or of a part that begins at `fromSamples`, streams in. */
export class ProfileGatherer {
  private readonly peaks = new PeakGatherer();
  private readonly energies = new EnergyGatherer();
  private readonly noise = new NoiseGatherer();
  private readonly leadSamples: number;
  private leadLeft: number;

  constructor(private readonly fromSamples = 0) {
    this.leadSamples = this.leadLeft = Math.min(fromSamples, LEAD_SAMPLES);
  }

  /** Where listening begins: a little before the part. */
  get beginSamples(): number {
    return this.fromSamples - this.leadSamples;
  }

  /** Takes samples of −1 to 1 at 48 kHz that follow one another, from `beginSamples` on. */
  add(samples: Float32Array): void {
    this.energies.add(samples);
    const lead = Math.min(this.leadLeft, samples.length);
    this.leadLeft -= lead;
    const own = lead > 0 ? samples.subarray(lead) : samples;
    this.peaks.add(own);
    this.noise.add(own);
  }

  finishPart(): ProfilePart {
    return {
      peaks: this.peaks.finish(),
      energies: this.energies.finish().slice(this.leadSamples / SAMPLES_PER_ENERGY),
      noise: this.noise.finish().map(({ atSamples, power }) => ({ atSamples: this.fromSamples + atSamples, power })),
    };
  }

  finish(): TakeProfile {
    return profileOf([this.finishPart()]);
  }
}

/** The profile of a take whose parts, in their order, were listened to. */
export function profileOf(parts: readonly ProfilePart[]): TakeProfile {
  const energies = joinSamples(parts.map((part) => part.energies));
  const speech = speechIn(energies);
  return {
    peaks: joinBytes(parts.map((part) => part.peaks)),
    energies,
    speech,
    noise: noiseApartFrom(
      speech,
      parts.flatMap((part) => part.noise),
    ),
  };
}
