import { CLOCK_HZ } from '@kite-trail/core/trail/clock';

/**
 * A take's clock: the samples its recording has captured. It maps moments of the page's own clock, at which pens and
 * buttons report, onto those samples; while paused it stands still.
 */
export class TakeClock {
  /** The run going on: at which audio frame it began, and how long the take was by then. */
  private run: { firstFrame: number; takeSamples: number } | null = null;
  private captured = 0;

  /** How far the audio context's time at which a sound is captured is ahead of the page's time at which it was made. */
  private shiftSeconds: number | null = null;
  /** When the shift last changed, and where the take's clock stood then. It never goes back behind that. */
  private changed = { performanceMs: -Infinity, samples: 0 };

  get takeSamples(): number {
    return this.captured;
  }

  get isRunning(): boolean {
    return this.run !== null;
  }

  /** Counts a block of captured samples that began at this frame of the audio context. */
  count(firstFrame: number, samples: number): void {
    this.run ??= { firstFrame, takeSamples: this.captured };
    this.captured = this.run.takeSamples + (firstFrame - this.run.firstFrame) + samples;
  }

  /** Takes on how far the audio context's clock is ahead, as found at a moment of `performance.now()`. */
  follow(shiftSeconds: number, performanceMs: number): void {
    this.changed = { performanceMs, samples: this.samplesAt(performanceMs) };
    this.shiftSeconds = shiftSeconds;
  }

  pause(): void {
    this.run = null;
  }

  /** The take's sample at a moment of `performance.now()`; never before the run going on, or the end while paused. */
  samplesAt(performanceMs: number): number {
    if (!this.run || this.shiftSeconds === null) return this.captured;
    const frame = (performanceMs / 1000 + this.shiftSeconds) * CLOCK_HZ;
    const earliest = performanceMs >= this.changed.performanceMs ? this.changed.samples : 0;
    return Math.max(this.run.takeSamples, earliest, Math.round(this.run.takeSamples + frame - this.run.firstFrame));
  }
}
