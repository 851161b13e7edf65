import { CLOCK_HZ } from '../trail/clock';

/** One peak stands for this many samples: 10 ms. */
export const SAMPLES_PER_PEAK = CLOCK_HZ / 100;

/** Gathers the highest absolute sample of every 10 ms, as bytes (255 is full scale), while sound streams in. */
export class PeakGatherer {
  private readonly peaks: number[] = [];
  private peak = 0;
  private filled = 0;

  add(samples: Float32Array): void {
    for (const sample of samples) {
      this.peak = Math.max(this.peak, Math.abs(sample));
      if (++this.filled === SAMPLES_PER_PEAK) this.close();
    }
  }

  finish(): Uint8Array {
    if (this.filled > 0) this.close();
    return Uint8Array.from(this.peaks);
  }

  private close(): void {
    this.peaks.push(Math.round(Math.min(1, this.peak) * 255));
    this.peak = 0;
    this.filled = 0;
  }
}
