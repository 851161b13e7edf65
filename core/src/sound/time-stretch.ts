import { msToSamples } from '../trail/clock';
import { joinSamples } from './join';

/** Pieces of so much sound overlap by half, and are looked for so far around where they would be. */
const PIECE = msToSamples(30);
const HOP = PIECE / 2;
const SEARCH = msToSamples(7);
/** Likeness is measured on every so many samples. */
const STRIDE = 4;

const FADE_IN = Float32Array.from({ length: HOP }, (_, i) => Math.sin((Math.PI / 2) * ((i + 0.5) / HOP)) ** 2);

/**
 * Plays sound faster or slower at the same pitch: pieces of it are laid over one another where their waveforms go on most
 * alike (WSOLA; Verhelst and Roelands 1993).
 */
export class TimeStretch {
  private input = new Float32Array();
  /** Where in all that came in `input` begins, where the next piece would ideally begin, and what would follow naturally. */
  private inputAt = 0;
  private ideal = 0;
  private natural = 0;

  /** @param rate 2 plays twice as fast */
  constructor(private readonly rate: number) {}

  /** Takes sound that follows on what came before. @returns what can be heard of it so far */
  process(samples: Float32Array): Float32Array<ArrayBuffer> {
    this.append(samples);
    const made: Float32Array[] = [];
    while (Math.max(this.natural + PIECE, this.ideal + SEARCH + PIECE) <= this.inputAt + this.input.length) {
      made.push(this.next());
    }
    this.forget();
    return joinSamples(made);
  }

  /** The rest, when no more comes. */
  finish(): Float32Array<ArrayBuffer> {
    return this.process(new Float32Array(PIECE + SEARCH));
  }

  private next(): Float32Array {
    const at = this.ideal === 0 ? 0 : this.bestAround(Math.round(this.ideal));
    const out = new Float32Array(HOP);
    for (let i = 0; i < HOP; i++) {
      const comes = this.input[at + i - this.inputAt];
      const goes = this.input[this.natural + i - this.inputAt];
      out[i] = this.ideal === 0 ? comes : comes * FADE_IN[i] + goes * (1 - FADE_IN[i]);
    }
    this.natural = at + HOP;
    this.ideal += HOP * this.rate;
    return out;
  }

  private bestAround(ideal: number): number {
    let [best, most] = [ideal, -Infinity];
    const goes = this.natural - this.inputAt;
    for (let at = Math.max(this.inputAt, ideal - SEARCH); at <= ideal + SEARCH; at += 2) {
      const comes = at - this.inputAt;
      let [likeness, power] = [0, 1e-9];
      for (let i = 0; i < HOP; i += STRIDE) {
        likeness += this.input[comes + i] * this.input[goes + i];
        power += this.input[comes + i] ** 2;
      }
      const alike = likeness / Math.sqrt(power);
      if (alike > most) [best, most] = [at, alike];
    }
    return best;
  }

  private append(samples: Float32Array): void {
    const longer = new Float32Array(this.input.length + samples.length);
    longer.set(this.input);
    longer.set(samples, this.input.length);
    this.input = longer;
  }

  private forget(): void {
    const needed = Math.min(this.natural, Math.max(0, Math.floor(this.ideal) - SEARCH));
    const count = Math.max(0, Math.min(this.input.length, needed - this.inputAt));
    this.input = this.input.slice(count);
    this.inputAt += count;
  }
}
