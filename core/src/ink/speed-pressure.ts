/** Speeds, in points a millisecond, at which a pen without a sensor is drawn at full and at least width. */
const SLOW = 0.1;
const FAST = 2.4;
const SMOOTHING_MS = 40;
const LIGHTEST = 0.25;
const FIRMEST = 0.75;

/**
 * Stands in for pressure where the device has none: slow is firm, fast is light, as with a real pen.
 * Feed it the positions of one stroke in order.
 */
export class SpeedPressure {
  private last: { xPt: number; yPt: number; atMs: number } | null = null;
  private smoothed = 0.5;

  /** @returns a pressure from 0.25 to 0.75, low-passed so that width never jumps. */
  next(xPt: number, yPt: number, atMs: number): number {
    if (this.last && atMs > this.last.atMs) {
      const elapsedMs = atMs - this.last.atMs;
      const speed = Math.hypot(xPt - this.last.xPt, yPt - this.last.yPt) / elapsedMs;
      const fastness = Math.min(1, Math.max(0, (speed - SLOW) / (FAST - SLOW)));
      const target = FIRMEST - (FIRMEST - LIGHTEST) * Math.sqrt(fastness);
      this.smoothed += (target - this.smoothed) * (1 - Math.exp(-elapsedMs / SMOOTHING_MS));
    }
    this.last = { xPt, yPt, atMs };
    return this.smoothed;
  }
}
