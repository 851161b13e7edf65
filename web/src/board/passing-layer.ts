import type { PassingChange } from '@kite-trail/core/lesson/mark';
import { passingMs, type Passing } from '@kite-trail/core/trail/passing';

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

  at(nowMs: number): Passing[] {
    const of = ({ change, beganMs }: { change: PassingChange; beganMs: number }) => ({
      change,
      sinceMs: nowMs - beganMs,
    });
    const held = this.held ? [{ change: this.held.change, sinceMs: pressedMs(this.held.change) }] : [];
    return [...this.shown.map(of), ...held];
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
