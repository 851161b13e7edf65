import { CLOCK_HZ } from '../trail/clock';
import { gatheredBytes } from './gathered';

/** One peak stands for this many samples: 2.5 ms, so that single words have a shape. */
export const SAMPLES_PER_PEAK = CLOCK_HZ / 400;

/** Gathers the highest absolute sample of every 2.5 ms, as bytes (255 is full scale), while sound streams in. */
export class PeakGatherer {
  private readonly peaks = gatheredBytes();
  private peak = 0;
  private filled = 0;

  add(samples: Float32Array): void {
    for (let i = 0; i < samples.length; i++) {
      const height = Math.abs(samples[i]);
      if (height > this.peak) this.peak = height;
      if (++this.filled === SAMPLES_PER_PEAK) this.close();
    }
  }

  /** What was gathered since this was last asked. Less than 2.5 ms at the end count as such. */
  take(): Uint8Array<ArrayBuffer> {
    if (this.filled > 0) this.close();
    return this.peaks.take();
  }

  private close(): void {
    this.peaks.push(Math.round(Math.min(1, this.peak) * 255));
    this.peak = 0;
    this.filled = 0;
  }
}

/** How many peaks of one level make one of the next. */
const PEAKS_PER_STEP = 8;

/** A take's peaks at several levels of detail, so that a waveform of any zoom looks at few of them. */
export class PeakLevels {
  private readonly levels: Uint8Array[];

  /** @param peaks the highest of every 2.5 ms */
  constructor(peaks: Uint8Array) {
    this.levels = [peaks];
    for (let last = peaks; last.length > PEAKS_PER_STEP;) {
      const next = new Uint8Array(Math.ceil(last.length / PEAKS_PER_STEP));
      for (let i = 0; i < last.length; i++) {
        const to = Math.floor(i / PEAKS_PER_STEP);
        next[to] = Math.max(next[to], last[i]);
      }
      this.levels.push((last = next));
    }
  }

  /**
   * The highest peak between two samples of the take, 0 to 1; where they are near, that of the 2.5 ms they lie in.
   * A peak that reaches over the end belongs to the stretch that follows, so columns side by side miss none.
   */
  highest(fromSamples: number, toSamples: number): number {
    let level = 0;
    let perPeak = SAMPLES_PER_PEAK;
    while (level + 1 < this.levels.length && (toSamples - fromSamples) / perPeak >= 2 * PEAKS_PER_STEP) {
      level++;
      perPeak *= PEAKS_PER_STEP;
    }
    const peaks = this.levels[level];
    const from = Math.max(0, Math.floor(fromSamples / perPeak));
    const to = Math.max(from + 1, Math.floor(toSamples / perPeak));
    let highest = 0;
    for (let i = from; i < to && i < peaks.length; i++) highest = Math.max(highest, peaks[i]);
    return highest / 255;
  }
}
