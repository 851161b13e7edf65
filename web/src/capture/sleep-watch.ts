import { samplesToMs } from '@kite-trail/core/trail/clock';

/** Timers of a window out of sight may come this late without anything being wrong. */
const LATE_MS = 2500;
/** Without a sample for so long, the sound device has stopped. */
const SILENT_MS = 3000;

export type Interruption = { kind: 'slept'; forMs: number } | { kind: 'no-sound' };

/**
 * Tells, tick by tick, whether the device slept (the lid was closed: the day's clock jumps, but nothing was captured
 * meanwhile) or its sound has stopped.
 */
export class SleepWatch {
  private last: { wallMs: number; samples: number } | null = null;
  private capturedAtMs = 0;

  /** @param wallMs the day's clock, `Date.now()`, and `samples` how many were captured by then */
  tick(wallMs: number, samples: number): Interruption | null {
    const before = this.last;
    this.last = { wallMs, samples };
    if (!before || samples > before.samples) this.capturedAtMs = wallMs;
    if (!before) return null;
    const passedMs = wallMs - before.wallMs;
    const missedMs = passedMs - samplesToMs(samples - before.samples);
    if (passedMs > LATE_MS && missedMs > LATE_MS) return { kind: 'slept', forMs: missedMs };
    return wallMs - this.capturedAtMs > SILENT_MS ? { kind: 'no-sound' } : null;
  }

  /** The recording was paused: what happens until the next tick is of no account. */
  rest(): void {
    this.last = null;
  }
}
