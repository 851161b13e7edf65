import { CLOCK_HZ, msToSamples, samplesToMs } from '../trail/clock';

const BIN_SAMPLES = 0.001 * CLOCK_HZ;
/** A knock is this much louder than what was heard in the tenth of a second before it, and not merely a rustle. */
const ABOVE_BACKGROUND = 6;
const LEAST_PEAK = 0.02;
const BACKGROUND_BINS = 100;
const APART_SAMPLES = msToSamples(150);
/** Where in a bin a knock's foot is: where it first reaches this part of its peak. */
const FOOT = 0.25;

/**
 * Where knocks, claps and taps begin in sound: the first sample of each that stands out from what was heard before it.
 * @param samples −1 to 1, at 48 kHz
 * @returns sample indices, in order
 */
export function findKnocks(samples: Float32Array): number[] {
  const knocks: number[] = [];
  const bins = Math.floor(samples.length / BIN_SAMPLES);
  const peaks = Array.from({ length: bins }, (_, bin) =>
    samples
      .subarray(bin * BIN_SAMPLES, (bin + 1) * BIN_SAMPLES)
      .reduce((peak, sample) => Math.max(peak, Math.abs(sample)), 0),
  );
  for (let bin = 1; bin < bins; bin++) {
    if (peaks[bin] < LEAST_PEAK) continue;
    const before = peaks.slice(Math.max(0, bin - BACKGROUND_BINS), bin - 1).sort((a, b) => a - b);
    const background = before[Math.floor(before.length / 2)] ?? 0;
    if (peaks[bin] < background * ABOVE_BACKGROUND) continue;
    const from = (bin - 1) * BIN_SAMPLES;
    const foot = samples.subarray(from).findIndex((sample) => Math.abs(sample) >= peaks[bin] * FOOT);
    if (from + foot - (knocks.at(-1) ?? -Infinity) >= APART_SAMPLES) knocks.push(from + foot);
  }
  return knocks;
}

const FEWEST_TAPS = 5;
const EARLIEST_MS = -150;
const LATEST_MS = 450;
/** Hands and devices that agree no better than this tell nothing. */
const MOST_SPREAD_MS = 15;

/** How much later than its touch a tap is heard in the recording. */
export type TapDelay =
  | { kind: 'measured'; delayMs: number; spreadMs: number; taps: number }
  | { kind: 'too-few'; taps: number }
  | { kind: 'uneven'; spreadMs: number };

/** Delays that lie this close together may be one and the same. */
const ALIKE_MS = 15;

/**
 * The delay of a device's sound behind its touches, told from taps that were both felt and heard. Which knock belongs to which
 * tap is not known, least of all when taps are faster than the delay: the two trains are correlated, and the delay at which
 * most of the taps meet a knock is the one. It is told as the median of these, with how far from it most of them are (median
 * absolute deviation), so that a stray sound or two do no harm.
 * @param tapsAtSamples when the surface was touched, and `knocksAtSamples` when something was heard, on the take's clock
 */
export function delayOfTaps(tapsAtSamples: readonly number[], knocksAtSamples: readonly number[]): TapDelay {
  const delays = tapsAtSamples
    .flatMap((tap) => knocksAtSamples.map((knock) => samplesToMs(knock - tap)))
    .filter(isInReach)
    .sort((one, other) => one - other);
  const meeting = mostAlike(delays);
  const heard = tapsAtSamples.filter((tap) => knocksAtSamples.some((knock) => isInReach(samplesToMs(knock - tap))));
  if (heard.length < FEWEST_TAPS) return { kind: 'too-few', taps: heard.length };
  const delayMs = median(meeting);
  const nearest = heard.map((tap) =>
    knocksAtSamples
      .map((knock) => Math.abs(samplesToMs(knock - tap) - delayMs))
      .reduce((least, off) => Math.min(least, off)),
  );
  const spreadMs = median(nearest);
  if (spreadMs > MOST_SPREAD_MS) return { kind: 'uneven', spreadMs };
  return { kind: 'measured', delayMs, spreadMs, taps: meeting.length };
}

const isInReach = (ms: number): boolean => ms >= EARLIEST_MS && ms <= LATEST_MS;

/** The largest group of values, in order, of which no two are further apart than those alike may be. */
function mostAlike(sorted: readonly number[]): readonly number[] {
  let best: readonly number[] = [];
  for (let from = 0, to = 0; from < sorted.length; from++) {
    while (to < sorted.length && sorted[to] - sorted[from] <= 2 * ALIKE_MS) to++;
    if (to - from > best.length) best = sorted.slice(from, to);
  }
  return best;
}

function median(values: readonly number[]): number {
  const sorted = values.toSorted((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}
