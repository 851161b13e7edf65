import { InkPoints } from '../ink/points';
import type { ByteReader, ByteWriter } from './bytes';

const ESCAPE = 0;
const MIDDLE = 8;

/**
 * Writes a stroke's points in about three bytes each: x and y as the difference from where the last two points lead,
 * then one byte for the changes of the time step and of the pressure (or an escape where they are large).
 */
export function writePoints(out: ByteWriter, points: InkPoints): void {
  out.unsigned(points.count);
  const x = new Extrapolation();
  const y = new Extrapolation();
  let lastMs = 0;
  let lastStepMs = 0;
  let lastPressure = 0;
  for (let i = 0; i < points.count; i++) {
    out.signed(x.residual(points.xSteps(i)));
    out.signed(y.residual(points.ySteps(i)));
    const stepMs = points.sinceMs[i] - lastMs;
    const pressure = points.pressureSteps(i);
    writePair(out, stepMs - lastStepMs, pressure - lastPressure);
    lastMs = points.sinceMs[i];
    lastStepMs = stepMs;
    lastPressure = pressure;
  }
}

/** Reads what {@link writePoints} wrote. @throws FormatError */
export function readPoints(from: ByteReader): InkPoints {
  const points = InkPoints.blank(from.count());
  const x = new Extrapolation();
  const y = new Extrapolation();
  let ms = 0;
  let stepMs = 0;
  let pressure = 0;
  for (let i = 0; i < points.count; i++) {
    const xSteps = x.restored(from.signed());
    const ySteps = y.restored(from.signed());
    const [stepChange, pressureChange] = readPair(from);
    stepMs += stepChange;
    ms += stepMs;
    pressure += pressureChange;
    points.set(i, xSteps, ySteps, pressure, ms);
  }
  return points;
}

/** Predicts that the pen goes on as it moved last. */
class Extrapolation {
  private last = 0;
  private velocity = 0;
  private seen = 0;

  residual(value: number): number {
    const residual = value - this.last - this.velocity;
    this.follow(value);
    return residual;
  }

  restored(residual: number): number {
    const value = residual + this.last + this.velocity;
    this.follow(value);
    return value;
  }

  private follow(value: number): void {
    this.velocity = this.seen === 0 ? 0 : value - this.last;
    this.last = value;
    this.seen++;
  }
}

function writePair(out: ByteWriter, a: number, b: number): void {
  if (Math.abs(a) < MIDDLE && Math.abs(b) < MIDDLE) {
    out.byte((a + MIDDLE) * 16 + b + MIDDLE);
    return;
  }
  out.byte(ESCAPE);
  out.signed(a);
  out.signed(b);
}

function readPair(from: ByteReader): [number, number] {
  const packed = from.byte();
  if (packed === ESCAPE) return [from.signed(), from.signed()];
  return [(packed >> 4) - MIDDLE, (packed & 15) - MIDDLE];
}
