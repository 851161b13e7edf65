import { CLOCK_HZ } from '../trail/clock';
import { gatheredFloats } from './gathered';

/** One energy stands for this many samples: 10 ms. */
export const SAMPLES_PER_ENERGY = CLOCK_HZ / 100;

/** The two filters of K-weighting at 48 kHz: b0, b1, b2, a1, a2 (ITU-R BS.1770-4, tables 1 and 2). */
const SHELF = [1.53512485958697, -2.69169618940638, 1.19839281085285, -1.69065929318241, 0.73248077421585] as const;
const HIGH_PASS = [1, -2, 1, -1.99004745483398, 0.99007225036621] as const;

/** In units of 10 ms: how long a gating block and a short-term window are, and how far apart they begin. */
const [BLOCK, WINDOW, STEP] = [40, 300, 10];
const ABSOLUTE_GATE_LUFS = -70;
const LOUDNESS_GATE_LU = -10;
const RANGE_GATE_LU = -20;

/** Gathers the mean square of every 10 ms of a K-weighted channel while sound streams in. */
export class EnergyGatherer {
  private readonly energies = gatheredFloats();
  private sum = 0;
  private filled = 0;
  // Both filters' states, in transposed direct form II.
  private readonly state = new Float64Array(4);

  /** Takes samples of −1 to 1 at 48 kHz that follow one another. */
  add(samples: Float32Array): void {
    let [s0, s1, s2, s3] = this.state;
    let { sum, filled } = this;
    for (let i = 0; i < samples.length; i++) {
      const x = samples[i];
      const y = SHELF[0] * x + s0;
      s0 = SHELF[1] * x - SHELF[3] * y + s1;
      s1 = SHELF[2] * x - SHELF[4] * y;
      const z = y + s2;
      s2 = HIGH_PASS[1] * y - HIGH_PASS[3] * z + s3;
      s3 = y - HIGH_PASS[4] * z;
      sum += z * z;
      if (++filled === SAMPLES_PER_ENERGY) {
        this.energies.push(sum / SAMPLES_PER_ENERGY);
        sum = filled = 0;
      }
    }
    this.state.set([s0, s1, s2, s3]);
    this.sum = sum;
    this.filled = filled;
  }

  /** What was gathered since this was last asked; the filters go on. Less than 10 ms at the end count as such. */
  take(): Float32Array<ArrayBuffer> {
    if (this.filled > 0) this.energies.push(this.sum / this.filled);
    this.sum = this.filled = 0;
    return this.energies.take();
  }
}

/** The loudness of a mean square, in LUFS (ITU-R BS.1770-4, equation 2, for one channel of weight 1). */
export const loudnessOf = (meanSquare: number): number => -0.691 + 10 * Math.log10(meanSquare);
const meanSquareOf = (lufs: number): number => 10 ** ((lufs + 0.691) / 10);

/**
 * Integrated loudness with both gates, in LUFS (ITU-R BS.1770-4, equations 3 to 7).
 * @param energies K-weighted mean squares of every 10 ms; those of several channels are added up
 * @returns −Infinity where nothing passes the gates
 */
export function integratedLoudness(energies: ArrayLike<number>): number {
  const blocks = means(energies, BLOCK).filter((one) => loudnessOf(one) > ABSOLUTE_GATE_LUFS);
  const gate = mean(blocks) * 10 ** (LOUDNESS_GATE_LU / 10);
  return loudnessOf(mean(blocks.filter((one) => one > gate)));
}

/**
 * Loudness range, in LU (EBU Tech 3342): from the 10th to the 95th percentile of the gated short-term loudness.
 * @param energies as for `integratedLoudness`
 */
export function loudnessRange(energies: ArrayLike<number>): number {
  const windows = means(energies, WINDOW).filter((one) => loudnessOf(one) >= ABSOLUTE_GATE_LUFS);
  const gate = mean(windows) * 10 ** (RANGE_GATE_LU / 10);
  const sorted = windows.filter((one) => one >= gate).sort((a, b) => a - b);
  if (sorted.length === 0) return 0;
  const at = (part: number) => loudnessOf(sorted[Math.round(part * (sorted.length - 1))]);
  return at(0.95) - at(0.1);
}

/** By how much sound of a loudness is to be multiplied to have another one. */
export const gainTo = (targetLufs: number, lufs: number): number =>
  Math.sqrt(meanSquareOf(targetLufs) / meanSquareOf(lufs));

/** The mean of every so many energies in a row, every 100 ms. */
function means(energies: ArrayLike<number>, count: number): number[] {
  const result: number[] = [];
  let sum = 0;
  for (let i = 0; i < energies.length; i++) {
    sum += energies[i];
    if (i >= count) sum -= energies[i - count];
    // Rounding must not make silence negative.
    if (i + 1 >= count && (i + 1 - count) % STEP === 0) result.push(Math.max(0, sum / count));
  }
  return result;
}

const mean = (values: readonly number[]): number =>
  values.length === 0 ? 0 : values.reduce((sum, one) => sum + one, 0) / values.length;
