import { seeded } from '@kite-trail/core/random/seeded';
import { InkPoints, type InkSample } from '@kite-trail/core/ink/points';
import type { Path, Point } from './letters';

export const PEN_HZ = 240;

/** Speed in pt/s where the path's radius of curvature is 1 pt, and its bounds. */
const GAIN = 66;
const SLOWEST = 45;
const FASTEST = 420;
/** Paths are followed in steps of this length. */
const STEP_PT = 0.25;
/** The hand rounds corners over about this length. */
const ROUNDING_PT = 0.9;
const LIFT_MS = 28;

/** A hand with its own small unsteadiness, the same each time it starts from the same seed. */
export class SimulatedPen {
  private readonly random: () => number;

  constructor(seed = 7) {
    this.random = seeded(seed);
  }

  /**
   * Writes a path as a person would: speed v = K · κ^(−1/3) of the curvature κ, the two-thirds power law of Lacquaniti,
   * Terzuolo and Viviani (Acta Psychologica 54, 1983), sampled at 240 Hz; pressure swells in, falls as speed rises, and
   * fades out.
   */
  write(path: Path): InkPoints {
    const steps = this.unsteady(rounded(resampled(path)));
    const seconds = [0];
    for (let i = 1; i < steps.length; i++) {
      const length = Math.hypot(steps[i].x - steps[i - 1].x, steps[i].y - steps[i - 1].y);
      seconds.push(seconds[i - 1] + length / speedAt(steps, i));
    }
    return InkPoints.from(sampled(steps, seconds));
  }

  /** How long the pen is in the air to the next path, in ms. */
  travelMs(from: Point, to: Point): number {
    return 45 + Math.hypot(to.x - from.x, to.y - from.y) * 1.3 + this.random() * 30;
  }

  private unsteady(path: readonly Point[]): Point[] {
    const [phase, second, size] = [this.random() * 7, this.random() * 7, 0.22 + this.random() * 0.12];
    return path.map(({ x, y }, i) => ({
      x: x + size * Math.sin(i / 31 + phase),
      y: y + size * Math.sin(i / 27 + second),
    }));
  }
}

/** The path in even steps. */
function resampled(path: Path): Point[] {
  const steps: Point[] = [path[0]];
  for (let i = 1; i < path.length; i++) {
    const [from, to] = [path[i - 1], path[i]];
    const count = Math.max(1, Math.round(Math.hypot(to.x - from.x, to.y - from.y) / STEP_PT));
    for (let n = 1; n <= count; n++) {
      steps.push({ x: from.x + ((to.x - from.x) * n) / count, y: from.y + ((to.y - from.y) * n) / count });
    }
  }
  return steps;
}

/** Averages neighbours, which rounds corners; the ends stay where they are. */
function rounded(path: readonly Point[]): Point[] {
  let result = [...path];
  // A dab is too short to be rounded: it would vanish.
  const reach = path.length < 12 ? 0 : Math.round(ROUNDING_PT / STEP_PT);
  for (let pass = 0; pass < 3; pass++) {
    result = result.map((_, i) => {
      const near = Math.min(reach, i, result.length - 1 - i);
      const around = result.slice(i - near, i + near + 1);
      return {
        x: around.reduce((sum, point) => sum + point.x, 0) / around.length,
        y: around.reduce((sum, point) => sum + point.y, 0) / around.length,
      };
    });
  }
  return result;
}

function speedAt(path: readonly Point[], i: number): number {
  const speed = GAIN * Math.max(1e-4, curvatureAt(path, i)) ** (-1 / 3);
  // From rest and back to rest, evenly accelerated.
  const fromEnds = Math.min(i, path.length - i) * STEP_PT;
  const ramp = Math.sqrt(SLOWEST ** 2 + 2 * 14_000 * fromEnds);
  return Math.min(FASTEST, Math.max(SLOWEST, speed), ramp);
}

/** One over the radius of the circle through three points of the path (Menger), in 1/pt. */
export function curvatureAt(path: readonly Point[], i: number): number {
  const reach = 4;
  const a = path[Math.max(0, i - reach)];
  const b = path[i];
  const c = path[Math.min(path.length - 1, i + reach)];
  const twiceArea = Math.abs((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x));
  const sides = Math.hypot(b.x - a.x, b.y - a.y) * Math.hypot(c.x - b.x, c.y - b.y) * Math.hypot(c.x - a.x, c.y - a.y);
  return sides === 0 ? 0 : (2 * twiceArea) / sides;
}

function sampled(path: readonly Point[], seconds: readonly number[]): InkSample[] {
  const endMs = seconds[seconds.length - 1] * 1000;
  const samples: InkSample[] = [];
  let i = 0;
  for (let n = 0; ; n++) {
    const sinceMs = Math.min(endMs, (n * 1000) / PEN_HZ);
    while (i < seconds.length - 2 && seconds[i + 1] * 1000 < sinceMs) i++;
    const span = (seconds[i + 1] - seconds[i]) * 1000 || 1;
    const part = Math.min(1, (sinceMs - seconds[i] * 1000) / span);
    const next = path[Math.min(i + 1, path.length - 1)];
    const speed = Math.hypot(next.x - path[i].x, next.y - path[i].y) / (span / 1000);
    const firmness = 0.74 - 0.3 * Math.min(1, speed / FASTEST);
    const swell = Math.min(1, 0.45 + sinceMs / LIFT_MS, 0.35 + (endMs - sinceMs) / LIFT_MS);
    samples.push({
      xPt: path[i].x + (next.x - path[i].x) * part,
      yPt: path[i].y + (next.y - path[i].y) * part,
      pressure: firmness * swell,
      sinceMs,
    });
    if (sinceMs >= endMs) return samples;
  }
}
