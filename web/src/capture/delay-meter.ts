/** Sound is compared by its loudness in steps of this length. */
const BIN_MS = 0.5;
const LONGEST_DELAY_MS = 250;
/** Correlation from which on two envelopes are of the same sound. Unlike sounds stay far below. */
const ALIKE = 0.6;
const SHORTEST_MS = 600;

/** How loud a sound is over time. */
export class Envelope {
  private readonly bins: number[] = [];
  private firstBin: number | null = null;

  /** Adds samples that follow one another from a moment on. */
  add(startMs: number, samples: Float32Array, hz: number): void {
    this.firstBin ??= Math.floor(startMs / BIN_MS);
    for (let i = 0; i < samples.length; i++) {
      const bin = Math.floor((startMs + (i * 1000) / hz) / BIN_MS) - this.firstBin;
      if (bin >= 0) this.bins[bin] = (this.bins[bin] ?? 0) + samples[i] * samples[i];
    }
  }

  get lengthMs(): number {
    return this.bins.length * BIN_MS;
  }

  get startMs(): number {
    return (this.firstBin ?? 0) * BIN_MS;
  }

  /** Amplitudes from a moment on. */
  slice(startMs: number, count: number): Float64Array {
    const from = Math.round(startMs / BIN_MS) - (this.firstBin ?? 0);
    return Float64Array.from({ length: count }, (_, i) => Math.sqrt(this.bins[from + i] ?? 0));
  }
}

/**
 * By how many milliseconds one sound follows another, where the two are of the same sound: the lag at which their
 * envelopes correlate best (Pearson), refined between steps by a parabola. `null` where none is convincing, as in silence.
 */
export function lagBetween(first: Envelope, later: Envelope): number | null {
  const startMs = Math.max(first.startMs, later.startMs);
  const endMs = Math.min(first.startMs + first.lengthMs, later.startMs + later.lengthMs - LONGEST_DELAY_MS);
  const count = Math.floor((endMs - startMs) / BIN_MS);
  if (count * BIN_MS < SHORTEST_MS) return null;
  const reference = first.slice(startMs, count);
  const lags = LONGEST_DELAY_MS / BIN_MS;
  const search = later.slice(startMs, count + lags);
  const alike = Array.from({ length: lags }, (_, lag) => correlation(reference, search.subarray(lag, lag + count)));
  const best = alike.indexOf(Math.max(...alike));
  if (!(alike[best] >= ALIKE)) return null;
  const [before, at, after] = [alike[best - 1] ?? alike[best], alike[best], alike[best + 1] ?? alike[best]];
  const bend = before - 2 * at + after;
  return (best + (bend === 0 ? 0 : (before - after) / (2 * bend))) * BIN_MS;
}

function correlation(a: Float64Array, b: Float64Array): number {
  const mean = (values: Float64Array) => values.reduce((sum, value) => sum + value, 0) / values.length;
  const [meanA, meanB] = [mean(a), mean(b)];
  let [together, squaresA, squaresB] = [0, 0, 0];
  for (let i = 0; i < a.length; i++) {
    const [fromA, fromB] = [a[i] - meanA, b[i] - meanB];
    together += fromA * fromB;
    squaresA += fromA * fromA;
    squaresB += fromB * fromB;
  }
  return together / Math.sqrt(squaresA * squaresB);
}

/** The browser's own way to read a track with its capture times (W3C mediacapture-transform), where it has it. */
interface TrackProcessor {
  readable: ReadableStream<AudioData>;
}
type TrackProcessorClass = new (init: { track: MediaStreamTrack }) => TrackProcessor;

/** Capture times count as being on the page's clock when they are this near to it. */
const PLAUSIBLE_MS = 1000;

/**
 * Gathers the envelope of a microphone track by its capture times, as a reference for how late the audio graph hears the
 * same sound. `null` where the browser cannot tell.
 */
export function captureReference(track: MediaStreamTrack): { envelope: Envelope; stop: () => void } | null {
  const Processor = (globalThis as { MediaStreamTrackProcessor?: TrackProcessorClass }).MediaStreamTrackProcessor;
  if (!Processor) return null;
  const own = track.clone();
  const envelope = new Envelope();
  const reader = new Processor({ track: own }).readable.getReader();
  void gather(reader, envelope);
  return { envelope, stop: () => own.stop() };
}

async function gather(reader: ReadableStreamDefaultReader<AudioData>, envelope: Envelope): Promise<void> {
  for (;;) {
    const { value, done } = await reader.read();
    if (done) return;
    const startMs = value.timestamp / 1000;
    if (Math.abs(startMs - performance.now()) < PLAUSIBLE_MS) {
      const samples = new Float32Array(value.numberOfFrames);
      value.copyTo(samples, { planeIndex: 0, format: 'f32-planar' });
      envelope.add(startMs, samples, value.sampleRate);
    }
    value.close();
  }
}
