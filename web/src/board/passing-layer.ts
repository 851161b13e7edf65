import type { PassingChange } from '@kite-trail/core/lesson/mark';
import type { SeenPassing } from '@kite-trail/core/live/sight';
import { passingMs } from '@kite-trail/core/trail/passing';

/** What is seen for a while on the board just now. While there is something, it is shown anew in every frame. */
export class PassingLayer {
  /** What is pointed at while the pointer is still down. */
  private held: { change: PassingChange; beganMs: number } | null = null;
  private shown: { change: PassingChange; beganMs: number }[] = [];
  private isRunning = false;

  constructor(private readonly changed: () => void) {}

  show = (change: PassingChange, beganMs: number): void => {
    this.shown.push({ change, beganMs });
    this.run();
  };

  hold = (change: PassingChange | null, beganMs: number): void => {
    this.held = change && { change, beganMs };
    this.run();
  };

  clear(): void {
    this.shown = [];
  }

  at(nowMs: number): SeenPassing[] {
    const shown = this.shown.map(({ change, beganMs }) => ({ change, sinceMs: nowMs - beganMs, isHeld: false }));
    if (!this.held) return shown;
    const { change } = this.held;
    return [...shown, { change, sinceMs: pressedMs(change), isHeld: true }];
  }

  private run(): void {
    if (this.isRunning) return;
    this.isRunning = true;
    const frame = () => {
      const nowMs = performance.now();
      this.shown = this.shown.filter(({ change, beganMs }) => nowMs - beganMs < passingMs(change));
      this.changed();
      this.isRunning = this.shown.length > 0 || this.held !== null;
      if (this.isRunning) requestAnimationFrame(frame);
    };
    requestAnimationFrame(frame);
  }
}

/** A pointer that is down does not fade. */
const pressedMs = (change: PassingChange): number => (change.kind === 'point' ? change.pointing.points.lengthMs : 0);
