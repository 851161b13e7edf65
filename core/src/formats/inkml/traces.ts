import { tiltOf } from '../../ink/tilt';
import { FormatError } from '../bytes';
import { readTraceData } from './trace-data';
import type { InkTrace } from './ink-file';
import type { MeantChannel, Setting } from './settings';
import type { Element } from './xml';

/** What a `<trace>` says, in points and milliseconds. Forces stay as they are told where it `isForceOpen`. @throws FormatError */
export function traceOf({ attributes, text }: Element, setting: Setting): InkTrace {
  const { channels, brush, canvas, matrix, clockMs } = setting;
  const rows = readTraceData(text, channels);
  const row = (name: string): Row | null => {
    const at = channels.findIndex((channel) => channel.name === name);
    return at < 0 ? null : { values: rows[at], channel: channels[at] };
  };
  const [x, y, force, time] = ['X', 'Y', 'F', 'T'].map(row);
  if (!x || !y) throw new FormatError('In this InkML file traces have no X and Y: they cannot be drawn.');
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
    tilt: tiltAlong(row('OTx'), row('OTy')) ?? pointedAlong(row('OA'), row('OE')),
    atMs: startOf(offsetMs, time ? beganMs : NaN, clockMs),
    brush,
    canvas,
  };
}

/** What a trace says of one channel, from point to point. */
interface Row {
  values: ArrayLike<number>;
  channel: MeantChannel;
}

const scaled = ({ values, channel: { scale } }: Row): number[] => Array.from(values, (value) => value * scale);

/** How the pen leant, where the file tells it as that (section 3.1.4). */
const tiltAlong = (across: Row | null, along: Row | null): InkTrace['tilt'] =>
  across && along && { xDeg: scaled(across), yDeg: scaled(along) };

/** The same where the file tells where the pen pointed: its azimuth, and how far it was raised from the page. */
function pointedAlong(azimuth: Row | null, elevation: Row | null): InkTrace['tilt'] {
  if (!azimuth || !elevation) return null;
  const raised = scaled(elevation);
  const leant = scaled(azimuth).map((azimuthDeg, i) => tiltOf(raised[i], azimuthDeg));
  return { xDeg: leant.map(({ xDeg }) => xDeg), yDeg: leant.map(({ yDeg }) => yDeg) };
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
export function goOn(prior: InkTrace, { xPt, yPt, pressure, sinceMs, tilt, atMs }: InkTrace): void {
  if (tilt) prior.tilt ??= { xDeg: prior.xPt.map(() => NaN), yDeg: prior.xPt.map(() => NaN) };
  const sinceBegan = atMs !== null && prior.atMs !== null ? atMs - prior.atMs : (prior.sinceMs.at(-1) ?? 0);
  for (let i = 0; i < xPt.length; i++) {
    prior.xPt.push(xPt[i]);
    prior.yPt.push(yPt[i]);
    prior.pressure.push(pressure[i]);
    prior.sinceMs.push(sinceBegan + sinceMs[i]);
    prior.tilt?.xDeg.push(tilt?.xDeg[i] ?? NaN);
    prior.tilt?.yDeg.push(tilt?.yDeg[i] ?? NaN);
  }
}
