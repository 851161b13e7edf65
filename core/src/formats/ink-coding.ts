import { InkPoints, LONGEST_MS } from '../ink/points';
import { MOST_TILT_DEG } from '../ink/tilt';
import { damaged, type ByteReader, type ByteWriter } from './bytes';

/** The time step hardly ever changes by more than this (ms), the pressure by more than that (of 255), from point to point. */
const STEP_REACH = 2;
const PRESSURE_REACH = 25;
const PRESSURE_VALUES = 2 * PRESSURE_REACH + 1;
/** The lean hardly ever changes by more degrees from one point to another. */
const LEAN_REACH = 7;
const LEAN_VALUES = 2 * LEAN_REACH + 1;
/** Follows the largest pair. */
const ESCAPE = (2 * STEP_REACH + 1) * PRESSURE_VALUES;

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
    if (ms < 0 || ms > LONGEST_MS) throw damaged();
    pressure += pressureChange;
    points.set(i, xSteps, ySteps, pressure, ms);
  }
  return points;
}

/**
 * Writes ink as {@link writePoints}, and then, to the end of its record or entry, how the pen leans: for each point at which that
 * changes, how many points on it is, and by how many degrees. Two bytes a change; a hand changes its lean every few points.
 */
export function writeInk(out: ByteWriter, points: InkPoints): void {
  writePoints(out, points);
  if (!points.tilt) return;
  const { xDeg, yDeg } = points.tilt;
  let [from, lastX, lastY] = [0, 0, 0];
  for (let i = 0; i < points.count; i++) {
    const [x, y] = [xDeg[i] - lastX, yDeg[i] - lastY];
    if (x === 0 && y === 0) continue;
    out.unsigned(i - from);
    if (Math.abs(x) <= LEAN_REACH && Math.abs(y) <= LEAN_REACH) {
      out.byte((x + LEAN_REACH) * LEAN_VALUES + y + LEAN_REACH);
    } else {
      out.byte(ESCAPE);
      out.signed(x);
      out.signed(y);
    }
    [from, lastX, lastY] = [i, xDeg[i], yDeg[i]];
  }
}

/** Reads what {@link writeInk} wrote, to the end of the bytes. @throws FormatError */
export function readInk(from: ByteReader): InkPoints {
  const points = readPoints(from);
  if (from.left === 0) return points;
  const leaning = points.leaning();
  let [at, x, y] = [0, 0, 0];
  while (from.left > 0) {
    const next = at + from.unsigned();
    for (let i = at; i < Math.min(next, points.count); i++) leaning.lean(i, x, y);
    at = next;
    const packed = from.byte();
    const [changeX, changeY] =
      packed === ESCAPE
        ? [from.signed(), from.signed()]
        : [Math.floor(packed / LEAN_VALUES) - LEAN_REACH, (packed % LEAN_VALUES) - LEAN_REACH];
    [x, y] = [x + changeX, y + changeY];
    const isWithin = Math.abs(x) <= MOST_TILT_DEG && Math.abs(y) <= MOST_TILT_DEG;
    if (at >= points.count || !isWithin || (changeX === 0 && changeY === 0)) throw damaged();
  }
  for (let i = at; i < points.count; i++) leaning.lean(i, x, y);
  return leaning;
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

function writePair(out: ByteWriter, step: number, pressure: number): void {
  if (Math.abs(step) <= STEP_REACH && Math.abs(pressure) <= PRESSURE_REACH) {
    out.byte((step + STEP_REACH) * PRESSURE_VALUES + pressure + PRESSURE_REACH);
    return;
  }
  out.byte(ESCAPE);
  out.signed(step);
  out.signed(pressure);
}

function readPair(from: ByteReader): [number, number] {
  const packed = from.byte();
  if (packed === ESCAPE) return [from.signed(), from.signed()];
  return [Math.floor(packed / PRESSURE_VALUES) - STEP_REACH, (packed % PRESSURE_VALUES) - PRESSURE_REACH];
}
