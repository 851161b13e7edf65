import { OneEuroFilter } from '1eurofilter';

/** A pen's samples come about this often; the filter measures the true times itself. */
const USUAL_HZ = 240;
/** How much of a hand at rest gets through: the lower, the steadier. */
const REST_CUTOFF_HZ = 4;
/** How fast the filter lets go as the pen moves, in Hz for each pixel a second. */
const SPEED_COEFFICIENT = 0.16;
const SPEED_CUTOFF_HZ = 6;

/**
 * Takes the tremble out of a pen's places without holding the pen back: the 1€ filter (Casiez, Roussel and Vogel 2012),
 * as its authors package it. At rest it smooths, in motion it hardly touches what it gets: at 600 pixels a second it is
 * about 1 pixel behind. Feed it the places of one stroke in order, in CSS pixels, as fine as the device gives them.
 */
export class SteadyHand {
  private readonly x = new OneEuroFilter(USUAL_HZ, REST_CUTOFF_HZ, SPEED_COEFFICIENT, SPEED_CUTOFF_HZ);
  private readonly y = new OneEuroFilter(USUAL_HZ, REST_CUTOFF_HZ, SPEED_COEFFICIENT, SPEED_CUTOFF_HZ);
  private last: { xPx: number; yPx: number; atMs: number } | null = null;

  next(xPx: number, yPx: number, atMs: number): { xPx: number; yPx: number } {
    // Two samples of one moment tell the filter nothing of speed.
    if (this.last && atMs <= this.last.atMs) return this.last;
    this.last = { xPx: this.x.filter(xPx, atMs / 1000), yPx: this.y.filter(yPx, atMs / 1000), atMs };
    return this.last;
  }
}
