/** What the worklet posts: samples captured in a row, and the context's frame at which they begin. */
export interface CapturedBlock {
  firstFrame: number;
  samples: Float32Array<ArrayBuffer>;
  /** True for the block that ends a run. */
  last: boolean;
}

const BLOCK_SAMPLES = 2048;

// The worklet's global scope, which the DOM types do not describe.
declare const currentFrame: number;
declare function registerProcessor(name: string, processor: unknown): void;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}

/** Gathers the first channel of its input while it is told to, without a gap. */
class Capture extends AudioWorkletProcessor {
  private running = false;
  private block = new Float32Array(BLOCK_SAMPLES);
  private filled = 0;
  private firstFrame = 0;

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<boolean>) => {
      if (this.running && !data) this.post(true);
      this.running = data;
    };
  }

  process([input]: Float32Array[][]): boolean {
    if (!this.running) return true;
    const channel = input[0];
    // Without an input the clock ticks all the same.
    const count = channel?.length ?? 128;
    if (this.filled === 0) this.firstFrame = currentFrame;
    if (channel) this.block.set(channel, this.filled);
    this.filled += count;
    if (this.filled >= BLOCK_SAMPLES) this.post(false);
    return true;
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
