import { CLOCK_HZ } from '../trail/clock';

/** The interpolating filter of ITU-R BS.1770-4, annex 2: four phases of twelve taps; the last two mirror the first. */
const FIRST_PHASES = [
  [
    0.001708984375, 0.010986328125, -0.0196533203125, 0.033203125, -0.0594482421875, 0.1373291015625, 0.97216796875,
    -0.102294921875, 0.047607421875, -0.026611328125, 0.014892578125, -0.00830078125,
  ],
  [
    -0.0291748046875, 0.029296875, -0.0517578125, 0.089111328125, -0.16650390625, 0.465087890625, 0.77978515625,
    -0.2003173828125, 0.1015625, -0.0582275390625, 0.0330810546875, -0.0189208984375,
  ],
];
const TAPS = 12;
const PHASES = Float64Array.from([...FIRST_PHASES, FIRST_PHASES[1].toReversed(), FIRST_PHASES[0].toReversed()].flat());
/** Between samples, sound is at most so many times as high as at them: where a phase's taps meet samples that are as high as theirs. */
const MOST_BETWEEN = Math.max(...FIRST_PHASES.map((taps) => taps.reduce((sum, tap) => sum + Math.abs(tap), 0)));
/** So far behind a sample its peaks are known. */
const PEAK_DELAY = TAPS / 2;

/** Follows the highest value that sound reaches, at samples and between them. */
class PeakFollower {
  private readonly last = new Float64Array(2 * TAPS);
  private at = 0;
  private sinceLoud = TAPS;

  /** Samples that are quieter than this reach no peak worth knowing. */
  private least = 0;

  /** Peaks that are no higher are not worth knowing. */
  ignoreUpTo(peak: number): void {
    this.least = peak / MOST_BETWEEN;
  }

  /** Takes a sample. @returns the peak around the one `PEAK_DELAY` before it; 0 where it is small */
  next(sample: number): number {
    this.last[this.at] = this.last[this.at + TAPS] = sample;
    this.at = (this.at + 1) % TAPS;
    this.sinceLoud = Math.abs(sample) >= this.least ? 0 : this.sinceLoud + 1;
    if (this.sinceLoud >= TAPS) return 0;
    // Between samples the filter tells; at them, it is a little low: a peak is at least as high as its sample.
    let peak = Math.abs(this.last[this.at + TAPS - PEAK_DELAY]);
    for (let phase = 0; phase < PHASES.length; phase += TAPS) {
      let value = 0;
      for (let tap = 0; tap < TAPS; tap++) value += PHASES[phase + tap] * this.last[this.at + TAPS - 1 - tap];
      peak = Math.max(peak, Math.abs(value));
    }
    return peak;
  }
}

/** Measures the true peak of sound that streams in (ITU-R BS.1770-4, annex 2). */
export class TruePeakMeter {
  private readonly follower = new PeakFollower();
  private peak = 0;

  add(samples: Float32Array): void {
    for (let i = 0; i < samples.length; i++) {
      const peak = this.follower.next(samples[i]);
      if (peak <= this.peak) continue;
      this.peak = peak;
      this.follower.ignoreUpTo(peak);
    }
  }

  /** The highest so far, in dBTP, as if silence followed; −Infinity of silence. */
  finish(): number {
    this.add(new Float32Array(TAPS));
    return 20 * Math.log10(this.peak);
  }
}

/** The true peak of sound, in dBTP. */
export function truePeakDb(samples: Float32Array): number {
  const meter = new TruePeakMeter();
  meter.add(samples);
  return meter.finish();
}

/** How long before a peak it begins to turn down, and how soon it is up again. */
const LOOK_AHEAD = CLOCK_HZ * 0.005;
const RELEASE_SAMPLES = CLOCK_HZ * 0.08;

/**
 * Turns sound down, smoothly and shortly before, where its true peak would pass a ceiling. Everything else stays as it is.
 * What comes out is what went in, so many samples later as `delaySamples` says.
 */
export class PeakLimiter {
  static readonly delaySamples = LOOK_AHEAD + PEAK_DELAY - 1;

  private readonly ceiling: number;
  private readonly follower = new PeakFollower();
  private readonly delayed = new Float32Array(PeakLimiter.delaySamples);
  /** Gains that would be enough at the last samples; those that may still be the least of them, in a queue. */
  private readonly queue: { n: number; gain: number }[] = [];
  private readonly recent = new Float64Array(LOOK_AHEAD).fill(1);
  private sum: number = LOOK_AHEAD;
  private released = 1;
  private n = 0;

  /** @param ceilingDb in dBTP */
  constructor(ceilingDb: number) {
    this.ceiling = 10 ** (ceilingDb / 20);
    this.follower.ignoreUpTo(this.ceiling);
  }

  /** Takes sound that follows on what came before. @returns as many samples as it was given */
  process(samples: Float32Array): Float32Array<ArrayBuffer> {
    const out = new Float32Array(samples.length);
    for (let i = 0; i < samples.length; i++) {
      const peak = this.follower.next(samples[i]);
      const gain = this.smoothed(this.leastOf(peak > this.ceiling ? this.ceiling / peak : 1));
      const slot = this.n % this.delayed.length;
      out[i] = this.delayed[slot] * gain;
      this.delayed[slot] = samples[i];
      this.n++;
    }
    return out;
  }

  /** The least of the gains of the look-ahead. */
  private leastOf(gain: number): number {
    const { queue, n } = this;
    while (queue.length > 0 && queue[queue.length - 1].gain >= gain) queue.pop();
    if (gain < 1) queue.push({ n, gain });
    if (queue.length > 0 && queue[0].n <= n - LOOK_AHEAD) queue.shift();
    return queue.length > 0 ? queue[0].gain : 1;
  }

  private smoothed(least: number): number {
    this.released = Math.min(least, this.released + (1 - this.released) / RELEASE_SAMPLES);
    const slot = this.n % LOOK_AHEAD;
    this.sum += this.released - this.recent[slot];
    this.recent[slot] = this.released;
    return Math.min(1, this.sum / LOOK_AHEAD);
  }
}
