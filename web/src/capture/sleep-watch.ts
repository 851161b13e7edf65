import { samplesToMs } from '@kite-trail/core/trail/clock';

/** Timers of a window out of sight may come this late without anything being wrong. */
const LATE_MS = 2500;
/** Without a sample for so long, the sound device has stopped. */
const SILENT_MS = 3000;
/** A sound device that went on all the while is behind by no more than this. */
const STALLED_MS = 250;
/** What came in while the page was busy is told within this time, though after the timers that were due meanwhile. */
const TOLD_WITHIN_MS = 500;

export type Interruption = { kind: 'slept'; forMs: number } | { kind: 'no-sound' };

/** What the clocks said at a tick. */
interface Tick {
  /** The day's clock, `Date.now()`: it can be set. */
  wallMs: number;
  /** `performance.now()`: it cannot, but on some systems stands still while the device sleeps. */
  steadyMs: number;
  /** How many samples were captured by then. */
  samples: number;
}

/**
 * Tells, tick by tick, whether the device slept (the lid was closed: time went by, but nothing was captured meanwhile) or its
 * sound has stopped. A day's clock that is set is neither: the sound goes on.
 */
export class SleepWatch {
  /** The last tick by which all was well. */
  private last: Tick | null = null;
  private capturedAtMs = 0;
  /** Since when it looks as if something were wrong. */
  private suspectedAtMs: number | null = null;

  tick(now: Tick): Interruption | null {
    const before = this.last;
    if (!before || now.samples > before.samples) this.capturedAtMs = now.steadyMs;
    const found = before && this.between(before, now);
    if (!found) {
      this.last = now;
      this.suspectedAtMs = null;
      return null;
    }
    this.suspectedAtMs ??= now.steadyMs;
    return now.steadyMs - this.suspectedAtMs >= TOLD_WITHIN_MS ? found : null;
  }

  private between(before: Tick, now: Tick): Interruption | null {
    const capturedMs = samplesToMs(now.samples - before.samples);
    const steadyMissedMs = now.steadyMs - before.steadyMs - capturedMs;
    const wallMissedMs = now.wallMs - before.wallMs - capturedMs;
    if (steadyMissedMs > LATE_MS) return { kind: 'slept', forMs: Math.max(steadyMissedMs, wallMissedMs) };
    if (wallMissedMs > LATE_MS && steadyMissedMs > STALLED_MS) return { kind: 'slept', forMs: wallMissedMs };
    return now.steadyMs - this.capturedAtMs > SILENT_MS ? { kind: 'no-sound' } : null;
  }

  /** The recording was paused: what happens until the next tick is of no account. */
  rest(): void {
    this.last = this.suspectedAtMs = null;
  }
}
