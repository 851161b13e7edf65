import FFT from 'fft.js';
import type { TakeId } from '../lesson/ids';
import { CLOCK_HZ } from '../trail/clock';
import type { Stretch } from '../trail/edit';
import type { TakeSound } from './mix';

/** Sound is looked at in frames of 21 ms that overlap by half. */
const FRAME = 1024;
const HOP = FRAME / 2;
export const NOISE_BINS = FRAME / 2 + 1;
/** Half of it before the spectrum and half behind: together the overlapping windows add up to one. */
const WINDOW = Float64Array.from({ length: FRAME }, (_, i) => Math.sin((Math.PI * (i + 0.5)) / FRAME));

/** A frame is looked at for the noise's spectrum this often. */
const SAMPLE_EVERY = CLOCK_HZ / 4;
/** From fewer, nothing is known of the noise. */
const LEAST_FRAMES = 4;
/** How much of the last frame's signal is expected to go on. */
const GOES_ON = 0.97;
/** Noise is turned down, not off: what is left hides how it was done. */
const LEAST_GAIN = 10 ** (-20 / 20);
/** So much is listened to before a stretch that is read from the middle. */
const LEAD_SAMPLES = 16 * HOP;

/** The mean power of steady noise in every bin of a frame's spectrum; empty where nothing is known of it. */
export type NoiseSpectrum = Float32Array<ArrayBuffer>;

/** What a part of a take sounds like while nobody speaks. */
export interface NoisePart {
  /** The mean of how many frames it is. */
  frames: number;
  power: NoiseSpectrum;
}

/** Gathers what a take sounds like, now and then, while it streams in. */
export class NoiseGatherer {
  private heard: (NoisePart & { atSamples: number })[] = [];
  private readonly fourier = new Spectrum();
  private readonly frame = new Float32Array(FRAME);
  private position = 0;

  /** Takes samples of −1 to 1 at 48 kHz that follow one another. */
  add(samples: Float32Array): void {
    for (let at = 0; at < samples.length;) {
      const into = this.position % SAMPLE_EVERY;
      // Between frames that are looked at, nothing is done.
      const count = Math.min(samples.length - at, (into < FRAME ? FRAME : SAMPLE_EVERY) - into);
      if (into < FRAME) this.frame.set(samples.subarray(at, at + count), into);
      at += count;
      this.position += count;
      if (into < FRAME && into + count === FRAME) {
        this.fourier.analyse(this.frame);
        this.heard.push({ atSamples: this.position - FRAME, frames: 1, power: this.fourier.power() });
      }
    }
  }

  /**
   * The noise of what was heard since this was last asked; nothing where somebody speaks all the time.
   * @param speech where somebody speaks, in samples since then
   */
  take(speech: readonly Stretch[]): NoisePart[] {
    const quiet = this.heard.filter(
      ({ atSamples }) =>
        !speech.some(({ fromSamples, toSamples }) => atSamples < toSamples && atSamples + FRAME > fromSamples),
    );
    this.heard = [];
    this.position = 0;
    return quiet.length === 0 ? [] : [{ frames: quiet.length, power: meanOf(quiet) }];
  }
}

/** The noise of a take whose parts were listened to; empty where hardly anything of it was heard. */
export function noiseOf(parts: readonly NoisePart[]): NoiseSpectrum {
  return framesOf(parts) < LEAST_FRAMES ? new Float32Array() : meanOf(parts);
}

const framesOf = (parts: readonly NoisePart[]) => parts.reduce((sum, { frames }) => sum + frames, 0);

function meanOf(parts: readonly NoisePart[]): NoiseSpectrum {
  const all = framesOf(parts);
  return Float32Array.from(
    { length: NOISE_BINS },
    (_, bin) => parts.reduce((sum, { frames, power }) => sum + frames * power[bin], 0) / all,
  );
}

/** A take's sound without its steady noise. */
export class QuietedSound implements TakeSound {
  private readonly streams = new Map<TakeId, NoiseStream>();

  constructor(
    private readonly sound: TakeSound,
    private readonly noises: ReadonlyMap<TakeId, NoiseSpectrum>,
  ) {}

  read(take: TakeId, fromSamples: number, toSamples: number): Promise<Float32Array> {
    const noise = this.noises.get(take);
    if (!noise || noise.length === 0) return this.sound.read(take, fromSamples, toSamples);
    let stream = this.streams.get(take);
    if (stream?.position !== fromSamples) {
      stream = new NoiseStream((from, to) => this.sound.read(take, from, to), noise, fromSamples);
      this.streams.set(take, stream);
    }
    return stream.readUntil(toSamples);
  }
}

/**
 * A Wiener filter frame by frame, whose a-priori signal-to-noise ratio is estimated from the frame before and this one
 * (Scalart and Filho 1996, after Ephraim and Malah 1984).
 */
class NoiseStream {
  private readonly fourier = new Spectrum();
  private readonly before = new Float64Array(NOISE_BINS);
  /** The last two halves of input, and what the frame before adds to the next half. */
  private readonly frame = new Float32Array(FRAME);
  private readonly tail = new Float64Array(HOP);
  private ready = new Float32Array();
  private readAt: number;
  private madeUntil: number;

  constructor(
    private readonly readSound: (from: number, to: number) => Promise<Float32Array>,
    private readonly noise: NoiseSpectrum,
    public position: number,
  ) {
    // Frames lie alike wherever reading begins, so that it sounds alike.
    const start = Math.max(0, Math.floor((position - LEAD_SAMPLES) / HOP) * HOP);
    this.readAt = start;
    this.madeUntil = start - HOP;
  }

  async readUntil(toSamples: number): Promise<Float32Array> {
    const out = new Float32Array(toSamples - this.position);
    let filled = this.takeReady(out, 0);
    while (filled < out.length) {
      const count = Math.ceil((toSamples - this.madeUntil) / HOP) * HOP;
      const input = await this.readSound(this.readAt, this.readAt + count);
      this.readAt += count;
      const made = new Float32Array(count);
      for (let at = 0; at < count; at += HOP) made.set(this.next(input.subarray(at, at + HOP)), at);
      const skip = Math.max(0, this.position - this.madeUntil);
      this.madeUntil += count;
      this.ready = made.subarray(Math.min(skip, count)).slice();
      filled += this.takeReady(out, filled);
    }
    return out;
  }

  private takeReady(out: Float32Array, at: number): number {
    const filled = this.ready.subarray(0, out.length - at);
    out.set(filled, at);
    this.ready = this.ready.slice(filled.length);
    this.position += filled.length;
    return filled.length;
  }

  /** Takes the next half frame. @returns the half frame before it */
  private next(half: Float32Array): Float32Array {
    this.frame.copyWithin(0, HOP);
    this.frame.set(half, HOP);
    this.fourier.analyse(this.frame);
    const power = this.fourier.power();
    for (let bin = 0; bin < NOISE_BINS; bin++) {
      const noise = this.noise[bin] + 1e-12;
      const ratio = power[bin] / noise;
      const expected = GOES_ON * this.before[bin] + (1 - GOES_ON) * Math.max(0, ratio - 1);
      const gain = Math.max(LEAST_GAIN, expected / (1 + expected));
      this.before[bin] = gain * gain * ratio;
      this.fourier.scale(bin, gain);
    }
    const made = this.fourier.synthesise();
    const out = new Float32Array(HOP);
    for (let i = 0; i < HOP; i++) {
      out[i] = made[i] + this.tail[i];
      this.tail[i] = made[HOP + i];
    }
    return out;
  }
}

/** A frame's spectrum, there and back. */
class Spectrum {
  private readonly fft = new FFT(FRAME);
  private readonly windowed = new Float64Array(FRAME);
  private readonly bins: number[] = this.fft.createComplexArray();
  private readonly back: number[] = this.fft.createComplexArray();

  analyse(frame: Float32Array): void {
    for (let i = 0; i < FRAME; i++) this.windowed[i] = frame[i] * WINDOW[i];
    this.fft.realTransform(this.bins, this.windowed);
  }

  power(): Float32Array<ArrayBuffer> {
    return Float32Array.from({ length: NOISE_BINS }, (_, bin) => this.bins[2 * bin] ** 2 + this.bins[2 * bin + 1] ** 2);
  }

  scale(bin: number, gain: number): void {
    this.bins[2 * bin] *= gain;
    this.bins[2 * bin + 1] *= gain;
  }

  synthesise(): Float64Array {
    this.fft.completeSpectrum(this.bins);
    this.fft.inverseTransform(this.back, this.bins);
    return Float64Array.from({ length: FRAME }, (_, i) => this.back[2 * i] * WINDOW[i]);
  }
}
