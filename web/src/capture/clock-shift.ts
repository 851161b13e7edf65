/** Sound is compared by its loudness in steps of this length. */
const BIN_MS = 0.5;
/** The shift is told from this much sound: enough to be certain, little enough to follow one that changes. */
const WINDOW_MS = 1000;
const SHORTEST_MS = 600;
/** How far from the expected shift it is looked for. */
const SEARCHED_MS = { before: 50, after: 250 };
const SEARCHED_BINS = (SEARCHED_MS.before + SEARCHED_MS.after) / BIN_MS;
/** The window, what is searched beyond it, and as much again for sound that arrives late. */
const KEPT_BINS = (2 * WINDOW_MS) / BIN_MS + 2 * SEARCHED_BINS;
/** Correlation from which on two envelopes are of the same sound. Unlike sounds stay far below. */
const ALIKE = 0.6;

/** How loud a sound was over the last seconds. */
export class Envelope {
  private readonly energy = new Float64Array(KEPT_BINS);
  private firstBin = 0;
  private endBin = 0;

  get startMs(): number {
    return Math.max(this.firstBin, this.endBin - KEPT_BINS) * BIN_MS;
  }

  get endMs(): number {
    return this.endBin * BIN_MS;
  }

  /** Adds samples that follow one another from a moment on. Time nothing is known of counts as silent. */
  add(startMs: number, samples: Float32Array, hz: number): void {
    const bin = Math.floor(startMs / BIN_MS);
    if (this.endBin === 0 || Math.abs(bin - this.endBin) > KEPT_BINS) this.beginAt(bin);
    const binsPerSample = 1000 / hz / BIN_MS;
    for (let i = 0; i < samples.length; i++) {
      this.put(Math.floor(startMs / BIN_MS + i * binsPerSample), samples[i] * samples[i]);
    }
  }

  /** Amplitudes from a step on; zero where nothing is known. */
  amplitudes(from: number, count: number): Float64Array {
    return Float64Array.from({ length: count }, (_, i) => {
      const bin = from + i;
      return bin * BIN_MS < this.startMs || bin >= this.endBin ? 0 : Math.sqrt(this.energy[bin % KEPT_BINS]);
    });
  }

  private beginAt(bin: number): void {
    this.energy.fill(0);
    this.firstBin = bin;
    this.endBin = bin;
  }

  private put(bin: number, energy: number): void {
    while (this.endBin <= bin) this.energy[this.endBin++ % KEPT_BINS] = 0;
    if (bin * BIN_MS >= this.startMs) this.energy[bin % KEPT_BINS] += energy;
  }
}

/**
 * How far a second clock is ahead of a first one, in milliseconds, told by a sound of late that each has dated by its own:
 * the shift near the expected one at which the sound's envelopes correlate best (Pearson) over a second, refined between
 * steps by a parabola. `null` where none is convincing, as in silence.
 */
export function shiftBetween(first: Envelope, second: Envelope, expectedMs: number): number | null {
  const leastBins = Math.round((expectedMs - SEARCHED_MS.before) / BIN_MS);
  const leastMs = leastBins * BIN_MS;
  const endMs = Math.min(first.endMs, second.endMs - leastMs - SEARCHED_BINS * BIN_MS);
  const startMs = Math.max(first.startMs, second.startMs - leastMs, endMs - WINDOW_MS);
  if (endMs - startMs < SHORTEST_MS) return null;
  const from = Math.ceil(startMs / BIN_MS);
  const count = Math.floor(endMs / BIN_MS) - from;
  const searched = second.amplitudes(from + leastBins, count + SEARCHED_BINS);
  const alike = correlations(first.amplitudes(from, count), searched, SEARCHED_BINS);
  const best = alike.indexOf(Math.max(...alike));
  if (!(alike[best] >= ALIKE)) return null;
  const [before, at, after] = [alike[best - 1] ?? alike[best], alike[best], alike[best + 1] ?? alike[best]];
  const bend = before - 2 * at + after;
  return leastMs + (best + (bend === 0 ? 0 : (before - after) / (2 * bend))) * BIN_MS;
}

/** Pearson's correlation of some values with as many others, from each of the first places in those on. */
function correlations(values: Float64Array, others: Float64Array, places: number): number[] {
  const count = values.length;
  const [mean, square] = [sum(values) / count, sum(values.map((value) => value * value))];
  const spread = square - count * mean * mean;
  let [othersSum, othersSquare] = [0, 0];
  for (let i = 0; i < count; i++) {
    othersSum += others[i];
    othersSquare += others[i] * others[i];
  }
  return Array.from({ length: places }, (_, place) => {
    let together = 0;
    for (let i = 0; i < count; i++) together += values[i] * others[place + i];
    const othersSpread = othersSquare - (othersSum * othersSum) / count;
    const result = (together - mean * othersSum) / Math.sqrt(spread * othersSpread);
    othersSum += others[place + count] - others[place];
    othersSquare += others[place + count] ** 2 - others[place] ** 2;
    return spread > 0 && othersSpread > 0 ? result : 0;
  });
}

const sum = (values: Float64Array) => values.reduce((total, value) => total + value, 0);
