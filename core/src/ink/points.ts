import { MOST_TILT_DEG, type Tilt } from './tilt';

/** Coordinates are kept in steps of 1/32 pt, about 0.01 mm: finer than a pen can resolve. */
export const STEPS_PER_PT = 32;
const PRESSURE_STEPS = 255;
/** Nothing lies further away than this: some fifty of the largest pages. */
export const MOST_PT = 1_000_000;
/** A stroke's times are kept as 32 bits. */
export const LONGEST_MS = 0xffff_ffff;

export interface InkSample {
  xPt: number;
  yPt: number;
  /** 0 to 1. */
  pressure: number;
  /** Time since the stroke began. */
  sinceMs: number;
  /** How the pen leans (`tilt`), where the device tells it. */
  tiltXDeg?: number;
  tiltYDeg?: number;
}

/**
 * A stroke's samples as columns. Values lie on the storage grid from the start (1/32 pt, 1/255 of full pressure, whole
 * milliseconds since the stroke began), so what is drawn live is to the bit what is read back later.
 */
export class InkPoints {
  /** When the last point was written: kept at hand, for at every edit a trail asks thousands of strokes. */
  private lastMs: number;

  private constructor(
    readonly xPt: Float32Array,
    readonly yPt: Float32Array,
    readonly pressure: Float32Array,
    readonly sinceMs: Uint32Array,
    /** `null` of a pen that never leans, as far as its device tells. */
    readonly tilt: Tilt | null,
  ) {
    this.lastMs = sinceMs.at(-1) ?? 0;
  }

  /**
   * Times are made non-decreasing; other values are put on the storage grid, and brought within what can be kept: a device may
   * send anything. Where one says no number at all, the last one holds.
   */
  static from(samples: readonly InkSample[]): InkPoints {
    const points = InkPoints.blank(samples.length, samples.some(isLeaning));
    let [lastX, lastY, lastPressure, latestMs] = [0, 0, 0, 0];
    samples.forEach((sample, i) => {
      lastX = within(sample.xPt, -MOST_PT, MOST_PT, lastX);
      lastY = within(sample.yPt, -MOST_PT, MOST_PT, lastY);
      lastPressure = within(sample.pressure, 0, 1, lastPressure);
      latestMs = Math.max(latestMs, Math.round(within(sample.sinceMs, 0, LONGEST_MS, latestMs)));
      points.set(
        i,
        Math.round(lastX * STEPS_PER_PT),
        Math.round(lastY * STEPS_PER_PT),
        Math.round(lastPressure * PRESSURE_STEPS),
        latestMs,
      );
      if (points.tilt) points.lean(i, leanOf(sample.tiltXDeg), leanOf(sample.tiltYDeg));
    });
    return points;
  }

  static blank(count: number, isLeaning = false): InkPoints {
    return new InkPoints(
      new Float32Array(count),
      new Float32Array(count),
      new Float32Array(count),
      new Uint32Array(count),
      isLeaning ? { xDeg: new Int8Array(count), yDeg: new Int8Array(count) } : null,
    );
  }

  get count(): number {
    return this.xPt.length;
  }

  get lengthMs(): number {
    return this.lastMs;
  }

  /** Sets one point from storage steps. */
  set(index: number, xSteps: number, ySteps: number, pressureSteps: number, sinceMs: number): void {
    // Adding zero turns −0 into 0, which is what reads back.
    this.xPt[index] = (xSteps + 0) / STEPS_PER_PT;
    this.yPt[index] = (ySteps + 0) / STEPS_PER_PT;
    this.pressure[index] = pressureSteps / PRESSURE_STEPS;
    this.sinceMs[index] = sinceMs;
    if (index === this.count - 1) this.lastMs = sinceMs;
  }

  /** The same points, of a pen that may lean. */
  leaning(): InkPoints {
    const { xDeg, yDeg } = InkPoints.blank(this.count, true).tilt!;
    return new InkPoints(this.xPt, this.yPt, this.pressure, this.sinceMs, { xDeg, yDeg });
  }

  /** Sets how the pen leans at a point, where these points know. */
  lean(index: number, xDeg: number, yDeg: number): void {
    if (!this.tilt) return;
    this.tilt.xDeg[index] = xDeg;
    this.tilt.yDeg[index] = yDeg;
  }

  xSteps(index: number): number {
    return Math.round(this.xPt[index] * STEPS_PER_PT);
  }

  ySteps(index: number): number {
    return Math.round(this.yPt[index] * STEPS_PER_PT);
  }

  pressureSteps(index: number): number {
    return Math.round(this.pressure[index] * PRESSURE_STEPS);
  }

  equals(other: InkPoints): boolean {
    const same = (a: ArrayLike<number>, b: ArrayLike<number>) => {
      for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
      return a.length === b.length;
    };
    return (
      same(this.xPt, other.xPt) &&
      same(this.yPt, other.yPt) &&
      same(this.pressure, other.pressure) &&
      same(this.sinceMs, other.sinceMs) &&
      same(this.tilt?.xDeg ?? [], other.tilt?.xDeg ?? []) &&
      same(this.tilt?.yDeg ?? [], other.tilt?.yDeg ?? [])
    );
  }

  /** Whether a point is the same as that of other ink. @param index of a point both have */
  isSameAt(index: number, other: InkPoints): boolean {
    return (
      this.xPt[index] === other.xPt[index] &&
      this.yPt[index] === other.yPt[index] &&
      this.pressure[index] === other.pressure[index] &&
      this.sinceMs[index] === other.sinceMs[index] &&
      (this.tilt?.xDeg[index] ?? 0) === (other.tilt?.xDeg[index] ?? 0) &&
      (this.tilt?.yDeg[index] ?? 0) === (other.tilt?.yDeg[index] ?? 0)
    );
  }

  /** The points from one to before another, at the times at which they were written. */
  part(from: number, to: number): InkPoints {
    const { xDeg, yDeg } = this.tilt ?? {};
    return new InkPoints(
      this.xPt.slice(from, to),
      this.yPt.slice(from, to),
      this.pressure.slice(from, to),
      this.sinceMs.slice(from, to),
      xDeg && yDeg ? { xDeg: xDeg.slice(from, to), yDeg: yDeg.slice(from, to) } : null,
    );
  }

  /** These points, and then those of the same pen's ink that was written after them. */
  followedBy(later: InkPoints): InkPoints {
    const all = InkPoints.blank(this.count + later.count, (this.tilt ?? later.tilt) !== null);
    for (const [points, at] of [
      [this, 0],
      [later, this.count],
    ] as const) {
      all.xPt.set(points.xPt, at);
      all.yPt.set(points.yPt, at);
      all.pressure.set(points.pressure, at);
      all.sinceMs.set(points.sinceMs, at);
      if (!points.tilt) continue;
      all.tilt!.xDeg.set(points.tilt.xDeg, at);
      all.tilt!.yDeg.set(points.tilt.yDeg, at);
    }
    all.lastMs = (later.count > 0 ? later : this).lastMs;
    return all;
  }

  /** How many points were written by this time: at least the first. */
  countBy(sinceMs: number): number {
    let low = 0;
    let high = this.count;
    while (low < high) {
      const middle = (low + high) >>> 1;
      if (this.sinceMs[middle] <= sinceMs) low = middle + 1;
      else high = middle;
    }
    return Math.max(low, Math.min(1, this.count));
  }

  /** The same ink on another time scale. */
  retimed(toSinceMs: (sinceMs: number) => number): InkPoints {
    return new InkPoints(
      this.xPt,
      this.yPt,
      this.pressure,
      this.sinceMs.map((since) => Math.min(LONGEST_MS, Math.max(0, Math.round(toSinceMs(since))))),
      this.tilt,
    );
  }
}

/** A lean in whole degrees; one that is no number is none. */
const leanOf = (deg = 0): number => Math.round(within(deg, -MOST_TILT_DEG, MOST_TILT_DEG, 0)) + 0;
const isLeaning = ({ tiltXDeg, tiltYDeg }: InkSample): boolean => leanOf(tiltXDeg) !== 0 || leanOf(tiltYDeg) !== 0;

const within = (value: number, least: number, most: number, last: number): number =>
  Number.isNaN(value) ? last : Math.min(most, Math.max(least, value));
