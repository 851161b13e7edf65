import { Envelope, shiftBetween } from '../../capture/clock-shift';

/** Sound captured by the microphone, by the page's clock; or as the audio graph has it, by the audio context's. */
export type ToClockShift = { startMs: number; samples: Float32Array<ArrayBuffer>; hz: number } & (
  | { clock: 'page' }
  | {
      clock: 'context';
      /** By how much that clock is ahead of the page's, at least. */
      aheadMs: number;
    }
);
/** How far the context's clock is ahead of the page's of late, in ms, delay of the sound and all. */
export type FromClockShift = number;

const MEASURED_EVERY_MS = 200;

const envelopes = { page: new Envelope(), context: new Envelope() };
let aheadMs: number | null = null;

onmessage = ({ data }: MessageEvent<ToClockShift>) => {
  envelopes[data.clock].add(data.startMs, data.samples, data.hz);
  if (data.clock === 'context') aheadMs = data.aheadMs;
};

setInterval(() => {
  const shiftMs = aheadMs === null ? null : shiftBetween(envelopes.page, envelopes.context, aheadMs);
  if (shiftMs !== null) postMessage(shiftMs satisfies FromClockShift);
}, MEASURED_EVERY_MS);
