import { FormatError } from '../bytes';
import { readTraceData } from './trace-data';
import type { InkTrace } from './ink-file';
import type { MeantChannel, Setting } from './settings';
import type { Element } from './xml';

/** What a `<trace>` says, in points and milliseconds. Forces stay as they are told where it `isForceOpen`. @throws FormatError */
export function traceOf({ attributes, text }: Element, setting: Setting): InkTrace {
  const { channels, brush, canvas, matrix, clockMs } = setting;
  const rows = readTraceData(text, channels);
  const row = (name: string) => {
    const at = channels.findIndex((channel) => channel.name === name);
    return at < 0 ? null : { values: rows[at], channel: channels[at] };
  };
  const [x, y, force, time] = ['X', 'Y', 'F', 'T'].map(row);
  if (!x || !y) throw new FormatError('In this InkML file traces have no X and Y: they cannot be drawn.');
  const scaled = ({ values, channel: { scale } }: NonNullable<typeof x>) =>
    Array.from(values, (value) => value * scale);
  const [left, top] = [scaled(x), scaled(y)];
  const [a, b, c, d, e, f] = matrix ?? [1, 0, 0, 1, 0, 0];
  const times = time ? scaled(time) : evenTimes(left.length, Number(attributes.get('duration') ?? NaN));
  const beganMs = times.find(Number.isFinite) ?? NaN;
  const offsetMs = Number(attributes.get('timeOffset') ?? NaN);
  return {
    xPt: left.map((value, i) => a * value + c * top[i] + e * x.channel.scale),
    yPt: left.map((value, i) => b * value + d * top[i] + f * y.channel.scale),
    pressure: force ? Array.from(force.values, (value) => withinLimits(value, force.channel)) : left.map(() => NaN),
    sinceMs: times.map((value) => value - beganMs),
    atMs: startOf(offsetMs, time ? beganMs : NaN, clockMs),
    brush,
    canvas,
  };
}

/** A trace that says how long it took, and no more, was written evenly. */
const evenTimes = (count: number, durationMs: number): number[] =>
  Array.from({ length: count }, (_, i) => (count > 1 ? (durationMs * i) / (count - 1) : 0 * durationMs));

/** A trace begins so long after its clock as it says; else when its first point says; else nobody knows when. */
function startOf(offsetMs: number, firstMs: number, clockMs: number): number | null {
  if (Number.isFinite(offsetMs)) return clockMs + offsetMs;
  return Number.isFinite(firstMs) ? clockMs + firstMs : null;
}

/** Whether nothing says how strong a force can be. */
export const isForceOpen = ({ channels }: Setting): boolean =>
  channels.some((channel) => channel.name === 'F' && limitsOf(channel) === null);

function limitsOf({ least, most }: MeantChannel): { from: number; range: number } | null {
  const from = least ?? 0;
  return most !== null && most > from ? { from, range: most - from } : null;
}

function withinLimits(value: number, channel: MeantChannel): number {
  const limits = limitsOf(channel);
  return limits ? Math.min(1, Math.max(0, (value - limits.from) / limits.range)) : value;
}

/** The strongest of forces that may be of any strength is full pressure; a file that counts to 1 means that. */
export function evenForces(traces: readonly InkTrace[]): void {
  let strongest = 1;
  for (const { pressure } of traces) for (const value of pressure) if (value > strongest) strongest = value;
  if (strongest === 1) return;
  for (const trace of traces) trace.pressure = trace.pressure.map((value) => Math.max(0, value / strongest));
}

/** A trace that goes on: what comes later follows what was there. */
export function goOn(prior: InkTrace, { xPt, yPt, pressure, sinceMs, atMs }: InkTrace): void {
  const sinceBegan = atMs !== null && prior.atMs !== null ? atMs - prior.atMs : (prior.sinceMs.at(-1) ?? 0);
  for (let i = 0; i < xPt.length; i++) {
    prior.xPt.push(xPt[i]);
    prior.yPt.push(yPt[i]);
    prior.pressure.push(pressure[i]);
    prior.sinceMs.push(sinceBegan + sinceMs[i]);
  }
}
