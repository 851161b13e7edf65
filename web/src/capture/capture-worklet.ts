import { fadeGain, FADE_SAMPLES } from '@kite-trail/core/sound/fade';

/** What the worklet posts: samples captured in a row, and the context's frame at which they begin. */
export interface CapturedBlock {
  firstFrame: number;
  samples: Float32Array<ArrayBuffer>;
  /** True for the block that ends a run. */
  last: boolean;
}

/** What it is told: to capture from a frame of the context on (any past one: at once), or to stop. */
export type CaptureOrder = { from: number } | 'stop';

const BLOCK_SAMPLES = 2048;

// The worklet's global scope, which the DOM types do not describe.
declare const currentFrame: number;
declare function registerProcessor(name: string, processor: unknown): void;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}

/**
 * Gathers the first channel of its input while it is told to, without a gap. A run fades in and out, so that what was
 * captured before and after a pause meets without a click: it ends the length of a fade after it was told to.
 */
class Capture extends AudioWorkletProcessor {
  private from: number | null = null;
  private captured = 0;
  /** How much of the fade out is still to come, once the run is to end. */
  private left: number | null = null;
  private block = new Float32Array(BLOCK_SAMPLES);
  private filled = 0;
  private firstFrame = 0;

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<CaptureOrder>) => {
      if (data !== 'stop') {
        this.from = data.from;
        this.captured = 0;
        this.left = null;
      } else if (this.from !== null && this.captured === 0) {
        this.from = null;
        this.post(true);
      } else {
        this.left ??= FADE_SAMPLES;
      }
    };
  }

  process([input]: Float32Array[][]): boolean {
    if (this.from === null || currentFrame < this.from) return true;
    const channel = input[0];
    // Without an input the clock ticks all the same.
    const count = channel?.length ?? 128;
    if (this.filled === 0) this.firstFrame = currentFrame;
    for (let i = 0; channel && i < count; i++) this.block[this.filled + i] = channel[i] * this.gain(i);
    this.filled += count;
    this.captured += count;
    if (this.left !== null) this.left -= count;
    const ends = this.left !== null && this.left <= 0;
    if (ends) this.from = null;
    if (ends || this.filled >= BLOCK_SAMPLES) this.post(ends);
    return true;
  }

  private gain(i: number): number {
    const rising = fadeGain((this.captured + i) / FADE_SAMPLES);
    return this.left === null ? rising : rising * fadeGain((this.left - 1 - i) / FADE_SAMPLES);
  }

  private post(last: boolean): void {
    const samples = this.block.slice(0, this.filled);
    const block: CapturedBlock = { firstFrame: this.firstFrame, samples, last };
    this.port.postMessage(block, [samples.buffer]);
    this.block.fill(0);
    this.filled = 0;
  }
}

registerProcessor('capture', Capture);
