import type { Level } from '@kite-trail/core/sound/level';

/** Every microphone has some noise; what is quieter than the last bit of 16 is none at all. */
const DIGITAL_SILENCE_DB = -90;
const FOR_MS = 5000;
/** Steady noise stays nearer to its own quietest moment than this; a voice, or a knock, does not. */
const ABOVE_NOISE_DB = 12;

/** What is wrong: not even noise comes in, or nothing but noise has come in so far. */
export type NoVoice = 'silence' | 'noise';

/**
 * Tells when a microphone brings no voice. Whoever writes in silence is not disturbed: once something more than noise was heard,
 * only digital silence is told.
 */
export class VoiceWatch {
  private beganMs = 0;
  private soundAtMs = 0;
  private quietestDb = Infinity;
  private hasHeardMore = false;
  private hadSilence = false;

  /** A microphone begins to be heard. */
  begin(nowMs: number): void {
    this.beganMs = nowMs;
    this.quietestDb = Infinity;
    this.hasHeardMore = false;
    this.goOn(nowMs);
  }

  /** The same one is heard again after a pause. */
  goOn(nowMs: number): void {
    this.soundAtMs = nowMs;
  }

  hear({ rmsDb, peakDb }: Level, nowMs: number): void {
    // Between silences, even a single knock is more than noise.
    this.quietestDb = Math.min(this.quietestDb, rmsDb);
    if (peakDb <= DIGITAL_SILENCE_DB) return;
    this.soundAtMs = nowMs;
    if (rmsDb > this.quietestDb + ABOVE_NOISE_DB) this.hasHeardMore = true;
  }

  /** What is wrong by now. */
  found(nowMs: number): NoVoice | null {
    if (nowMs - this.soundAtMs > FOR_MS) {
      this.hadSilence = true;
      return 'silence';
    }
    return !this.hasHeardMore && nowMs - this.beganMs > FOR_MS ? 'noise' : null;
  }

  /** What was wrong with a take that ends now. */
  foundInAll(nowMs: number): NoVoice | null {
    return this.hadSilence ? 'silence' : this.found(nowMs);
  }
}
