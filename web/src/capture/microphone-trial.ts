import { levelOf } from '@kite-trail/core/sound/level';
import { delayOfTaps, findKnocks, type TapDelay } from '@kite-trail/core/sound/tap-delay';
import { VoiceCheck, type VoiceVerdict } from '@kite-trail/core/sound/voice-check';
import { joinSamples } from '@kite-trail/core/sound/join';
import { CLOCK_HZ, secondsToSamples } from '@kite-trail/core/trail/clock';
import { SoundSource, type SoundSettings } from './sound-source';

/** What is heard after the last tap belongs to it. */
const AFTER_TAP_MS = 600;

/** A microphone that is tried out before it is recorded with: nothing of it is kept. */
export class MicrophoneTrial {
  onHeard: (peakDb: number, verdict: VoiceVerdict) => void = () => {};
  onLost: () => void = () => {};
  private readonly check = new VoiceCheck();
  /** Takes samples down while somebody wants them. */
  private heard: Float32Array<ArrayBuffer>[] | null = null;
  private full: (() => void) | null = null;
  private wantedSamples = 0;

  private constructor(private readonly source: SoundSource) {
    source.onBlock = ({ samples }) => this.hear(samples);
    source.onLost = () => this.onLost();
    source.run();
  }

  /** @throws NoMicrophone */
  static async open(settings: SoundSettings): Promise<MicrophoneTrial> {
    // What it is behind is to be measured, not what is left of it.
    return new MicrophoneTrial(await SoundSource.open({ ...settings, delayMs: 0 }));
  }

  close(): void {
    this.source.close();
    this.full?.();
  }

  /** Records some seconds and plays them. @param onPlaying hears when it begins to play; settles when it has played */
  async recordAndPlay(seconds: number, onPlaying: () => void): Promise<void> {
    const samples = await this.take(secondsToSamples(seconds));
    if (samples.length === 0) return;
    onPlaying();
    const buffer = new AudioBuffer({ length: samples.length, sampleRate: CLOCK_HZ, numberOfChannels: 1 });
    buffer.copyToChannel(samples, 0);
    const node = new AudioBufferSourceNode(this.source.context, { buffer });
    node.connect(this.source.context.destination);
    node.start();
    await new Promise((resolve) => (node.onended = resolve));
  }

  /**
   * Measures how much later than they are felt taps are heard.
   * @param taps gives the moment (`performance.now()`) of each tap, until there are enough
   */
  async measureDelay(taps: AsyncIterable<number>): Promise<TapDelay> {
    const { clock } = this.source;
    const fromSamples = clock.takeSamples;
    const heard: Float32Array<ArrayBuffer>[] = [];
    this.heard = heard;
    this.wantedSamples = Infinity;
    const felt: number[] = [];
    for await (const atMs of taps) felt.push(clock.samplesAt(atMs));
    await new Promise((resolve) => setTimeout(resolve, AFTER_TAP_MS));
    this.heard = null;
    const knocks = findKnocks(joinSamples(heard)).map((at) => at + fromSamples);
    return delayOfTaps(felt, knocks);
  }

  private async take(samples: number): Promise<Float32Array<ArrayBuffer>> {
    const heard: Float32Array<ArrayBuffer>[] = [];
    this.heard = heard;
    this.wantedSamples = samples;
    await new Promise<void>((resolve) => (this.full = resolve));
    this.heard = this.full = null;
    return joinSamples(heard).slice(0, samples);
  }

  private hear(samples: Float32Array<ArrayBuffer>): void {
    this.check.add(samples);
    this.onHeard(levelOf(samples).peakDb, this.check.verdict);
    if (!this.heard) return;
    this.heard.push(samples);
    this.wantedSamples -= samples.length;
    if (this.wantedSamples <= 0) this.full?.();
  }
}
