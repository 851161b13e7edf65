import { markEndSamples, type Mark } from '../lesson/mark';
import type { Hold } from './plan';

/**
 * Where old ink stands while a new voice is spoken over it. It follows the voice, and waits where the teacher asks it to:
 * never in the middle of a stroke, but once those being written have ended.
 */
export class InkWaits {
  private readonly ended: Hold[] = [];
  /** Where the ink is to stop, or has stopped; `null` while it follows the voice. */
  private stopAt: number | null = null;

  /**
   * @param marks what is played, in the order of their times
   * @param fromSamples where the stretch begins, on the same clock, and `lengthSamples` how long it is
   */
  constructor(
    private readonly marks: readonly Mark[],
    private readonly fromSamples: number,
    private readonly lengthSamples: number,
  ) {}

  /** Where in the stretch the ink is when so much has been spoken. */
  inkAt(voiceSamples: number): number {
    const last = this.stopAt ?? this.lengthSamples;
    return Math.min(voiceSamples - this.waited, last, this.lengthSamples);
  }

  get isHolding(): boolean {
    return this.stopAt !== null;
  }

  /** Lets the ink wait from the next pause on. */
  hold(voiceSamples: number): void {
    this.stopAt ??= this.nextPause(this.inkAt(voiceSamples));
  }

  /** Lets the ink go on. */
  release(voiceSamples: number): void {
    const hold = this.currentHold(voiceSamples);
    if (hold) this.ended.push(hold);
    this.stopAt = null;
  }

  /** All waits by now, the one going on among them. */
  holdsAt(voiceSamples: number): Hold[] {
    const current = this.currentHold(voiceSamples);
    return current ? [...this.ended, current] : [...this.ended];
  }

  private get waited(): number {
    return this.ended.reduce((sum, { forSamples }) => sum + forSamples, 0);
  }

  private currentHold(voiceSamples: number): Hold | null {
    if (this.stopAt === null) return null;
    const forSamples = voiceSamples - this.waited - this.stopAt;
    return forSamples > 0 ? { atSamples: this.stopAt, forSamples } : null;
  }

  private nextPause(inkSamples: number): number {
    let pause = this.fromSamples + inkSamples;
    for (const mark of this.marks) {
      if (mark.atSamples >= pause) break;
      pause = Math.max(pause, Math.ceil(markEndSamples(mark)));
    }
    return Math.min(this.lengthSamples, pause - this.fromSamples);
  }
}
