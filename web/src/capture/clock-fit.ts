const PAIRS_KEPT = 100;
/** Readings scatter by a tenth of a millisecond; one this far from the line tells of a clock that jumped. */
const JUMP_SECONDS = 0.002;

/**
 * Ties two clocks by a straight line fitted to pairs of their readings (least squares), which evens out the scatter of
 * single readings: of audio context time (seconds) against `performance.now()` time (milliseconds). When one clock jumps
 * (the sound device stalled, the lid was closed), the line starts anew from the readings after the jump.
 */
export class ClockFit {
  private pairs: { performanceMs: number; contextSeconds: number }[] = [];
  private astray: typeof this.pairs = [];
  private slope = 1 / 1000;
  private centre = { performanceMs: 0, contextSeconds: 0 };

  add(performanceMs: number, contextSeconds: number): void {
    const last = this.pairs.at(-1);
    if (last && performanceMs <= last.performanceMs) return;
    const pair = { performanceMs, contextSeconds };
    if (this.isReady && Math.abs(contextSeconds - this.contextSecondsAt(performanceMs)) > JUMP_SECONDS) {
      // One reading alone may be a slip; the second one in a row is believed.
      this.astray.push(pair);
      if (this.astray.length < 2) return;
      this.pairs = this.astray;
    } else {
      this.pairs.push(pair);
      if (this.pairs.length > PAIRS_KEPT) this.pairs.shift();
    }
    this.astray = [];
    this.refit();
  }

  get isReady(): boolean {
    return this.pairs.length > 0;
  }

  /** The audio context's time at a moment of `performance.now()`. */
  contextSecondsAt(performanceMs: number): number {
    return this.centre.contextSeconds + (performanceMs - this.centre.performanceMs) * this.slope;
  }

  /** How far the audio context's clock is ahead of the page's at a moment of `performance.now()`. */
  aheadSecondsAt(performanceMs: number): number {
    return this.contextSecondsAt(performanceMs) - performanceMs / 1000;
  }

  private refit(): void {
    const count = this.pairs.length;
    const mean = (read: (pair: (typeof this.pairs)[number]) => number) =>
      this.pairs.reduce((sum, pair) => sum + read(pair), 0) / count;
    this.centre = {
      performanceMs: mean((pair) => pair.performanceMs),
      contextSeconds: mean((pair) => pair.contextSeconds),
    };
    let across = 0;
    let along = 0;
    for (const pair of this.pairs) {
      const x = pair.performanceMs - this.centre.performanceMs;
      along += x * x;
      across += x * (pair.contextSeconds - this.centre.contextSeconds);
    }
    // With readings close together the slope would be guesswork: then the clocks run alike.
    const spanMs = this.pairs[count - 1].performanceMs - this.pairs[0].performanceMs;
    this.slope = spanMs > 1000 ? across / along : 1 / 1000;
  }
}
