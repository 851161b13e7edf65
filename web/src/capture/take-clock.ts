import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { ClockFit } from './clock-fit';

/**
 * A take's clock: the samples its recording has captured. It maps moments of the page's own clock, at which pens and
 * buttons report, onto those samples; while paused it stands still.
 */
export class TakeClock {
  /** Between the page's clock (ms) and the audio graph's (s). */
  readonly fit = new ClockFit();
  /** The run going on: at which audio frame it began, and how long the take was by then. */
  private run: { firstFrame: number; takeSamples: number } | null = null;
  private captured = 0;

  constructor(private readonly delaySeconds: () => number) {}

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

  pause(): void {
    this.run = null;
  }

  /** The take's sample at a moment of `performance.now()`; never before the run going on, or the end while paused. */
  samplesAt(performanceMs: number): number {
    if (!this.run || !this.fit.isReady) return this.captured;
    const frame = (this.fit.contextSecondsAt(performanceMs) + this.delaySeconds()) * CLOCK_HZ;
    return Math.max(this.run.takeSamples, Math.round(this.run.takeSamples + frame - this.run.firstFrame));
  }
}
