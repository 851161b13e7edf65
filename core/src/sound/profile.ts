import type { Stretch } from '../trail/edit';
import { EnergyGatherer } from './loudness';
import type { VoiceProfile } from './mastering';
import { NoiseGatherer } from './noise';
import { PeakGatherer } from './peaks';
import { speechIn } from './speech';

/** All that is found out about a take's voice. */
export interface TakeProfile extends VoiceProfile {
  /** The highest of every 2.5 ms, as bytes. */
  peaks: Uint8Array<ArrayBuffer>;
  /** Where somebody speaks. */
  speech: Stretch[];
}

/** Finds it out in one pass, while sound streams in. */
export class ProfileGatherer {
  private readonly peaks = new PeakGatherer();
  private readonly energies = new EnergyGatherer();
  private readonly noise = new NoiseGatherer();

  /** Takes samples of −1 to 1 at 48 kHz that follow one another. */
  add(samples: Float32Array): void {
    this.peaks.add(samples);
    this.energies.add(samples);
    this.noise.add(samples);
  }

  finish(): TakeProfile {
    const energies = this.energies.finish();
    const speech = speechIn(energies);
    return { peaks: this.peaks.finish(), energies, speech, noise: this.noise.finish(speech) };
  }
}
