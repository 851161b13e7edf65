import { CLOCK_HZ } from '../trail/clock';
import { levelOf } from './level';

/** What can be told of a microphone from what it hears. */
export type VoiceVerdict = 'listening' | 'silent' | 'clipping' | 'quiet' | 'noisy' | 'good';

const FRAME_SAMPLES = 0.02 * CLOCK_HZ;
const FRAMES_KEPT = 200;
const FRAMES_NEEDED = 50;
/** A muted or dead input; the quietest rooms are some 20 dB above. Common practice. */
const SILENT_DB = -75;
/** Active speech is nominally at −26 dBov (ITU-T G.100.1); this far below it, viewers must turn up their sound. */
const QUIET_DB = -26 - 14;
/** Speech is followed without strain 15 dB above the noise (ANSI/ASA S12.60, for classrooms; from memory). */
const LEAST_ABOVE_NOISE_DB = 15;
/** A floor this low is not heard as noise, whatever is spoken. Common practice. */
const NOISE_DB = -50;
/** So many samples in a row at full scale are no peak, but a waveform that was cut off. Common practice. */
const CLIPPED_IN_A_ROW = 3;
const FULL_SCALE = 0.985;

/** Listens to the last four seconds of a microphone and tells what is wrong with it, if anything. */
export class VoiceCheck {
  private readonly framesDb: number[] = [];
  private readonly clipped: boolean[] = [];
  private frame = new Float32Array(FRAME_SAMPLES);
  private filled = 0;
  private inARow = 0;
  private clips = false;

  /** Takes samples of −1 to 1 at 48 kHz that follow one another. */
  add(samples: Float32Array): void {
    for (const sample of samples) {
      this.inARow = Math.abs(sample) >= FULL_SCALE ? this.inARow + 1 : 0;
      this.clips ||= this.inARow >= CLIPPED_IN_A_ROW;
      this.frame[this.filled++] = sample;
      if (this.filled === FRAME_SAMPLES) this.close();
    }
  }

  get verdict(): VoiceVerdict {
    if (this.framesDb.length < FRAMES_NEEDED) return 'listening';
    if (this.clipped.includes(true)) return 'clipping';
    const sorted = this.framesDb.toSorted((a, b) => a - b);
    const at = (part: number) => sorted[Math.floor(part * (sorted.length - 1))];
    const [floorDb, voiceDb] = [at(0.1), at(0.9)];
    if (at(1) < SILENT_DB) return 'silent';
    if (voiceDb - floorDb < LEAST_ABOVE_NOISE_DB) return floorDb > NOISE_DB ? 'noisy' : 'listening';
    return voiceDb < QUIET_DB ? 'quiet' : 'good';
  }

  private close(): void {
    this.framesDb.push(levelOf(this.frame).rmsDb);
    this.clipped.push(this.clips);
    if (this.framesDb.length > FRAMES_KEPT) {
      this.framesDb.shift();
      this.clipped.shift();
    }
    this.filled = 0;
    this.clips = false;
  }
}
