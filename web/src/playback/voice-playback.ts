import { CLOCK_HZ, samplesToSeconds } from '@kite-trail/core/trail/clock';
import type { Mastering } from '@kite-trail/core/sound/mastering';
import type { Programme } from '@kite-trail/core/trail/programme';
import type { FromMixer, ToMixer } from '../workers/sound/mix.worker';
import MixWorker from '../workers/sound/mix.worker?worker';
import type { SoundUrls } from '../workers/sound/take-sound-reader';

/** So much is put on the sound card ahead of what is heard. */
const AHEAD_SECONDS = 3;

/** A mixer that has nothing left to mix waits for the next voices: to start one takes longer than to mix a moment. */
let spare: Worker | null = null;

function takeMixer(): Worker {
  const mixer = spare ?? new MixWorker();
  spare = null;
  return mixer;
}

/** What is to be heard. */
export interface Voices {
  programme: Programme;
  urls: SoundUrls;
  mastering: Mastering;
  /** How many times faster than it was spoken. */
  rate?: number;
}

/**
 * Plays a programme's voice on an audio context's own clock, to the sample and without a gap at splices: a worker mixes it
 * block by block, and each block is due where the one before it ends.
 */
export class VoicePlayback {
  private mixer: Worker | null;
  /** It was asked for a block that has not come yet. */
  private isMixing = false;
  private readonly waiting: Float32Array<ArrayBuffer>[] = [];
  private readonly sounding = new Set<AudioBufferSourceNode>();
  private scheduledSamples = 0;
  private startSeconds: number | null = null;
  private ended = false;
  private arrived: () => void = () => {};

  private readonly out: GainNode;

  private constructor(
    private readonly context: AudioContext,
    gain: number,
  ) {
    this.out = new GainNode(context, { gain });
    this.out.connect(context.destination);
    this.mixer = takeMixer();
    this.mixer.onmessage = ({ data }: MessageEvent<FromMixer>) => this.take(data);
  }

  /** Makes the first blocks ready, so that `start` is heard in time. */
  static async prepare(
    context: AudioContext,
    { programme, urls, mastering, rate = 1 }: Voices,
    gain = 1,
  ): Promise<VoicePlayback> {
    const playback = new VoicePlayback(context, gain);
    const first = new Promise<void>((resolve) => (playback.arrived = resolve));
    playback.tell({ programme, urls, mastering, rate });
    playback.tell('next');
    await first;
    return playback;
  }

  /** Lets the programme begin at a time of the context. */
  start(atSeconds: number): void {
    this.startSeconds = atSeconds;
    for (const block of this.waiting.splice(0)) this.schedule(block);
  }

  stop(): void {
    this.ended = true;
    this.giveMixerBack();
    this.out.disconnect();
    for (const node of this.sounding) node.stop();
    this.sounding.clear();
  }

  private take(block: FromMixer): void {
    this.isMixing = false;
    this.arrived();
    if (this.ended) return;
    if (!block) {
      this.ended = true;
      this.giveMixerBack();
    } else if (this.startSeconds === null) {
      this.waiting.push(block);
    } else {
      this.schedule(block);
    }
  }

  private schedule(block: Float32Array<ArrayBuffer>): void {
    const buffer = new AudioBuffer({ length: block.length, sampleRate: CLOCK_HZ, numberOfChannels: 1 });
    buffer.copyToChannel(block, 0);
    const node = new AudioBufferSourceNode(this.context, { buffer });
    node.connect(this.out);
    const dueSeconds = this.startSeconds! + samplesToSeconds(this.scheduledSamples);
    node.start(dueSeconds);
    this.scheduledSamples += block.length;
    this.sounding.add(node);
    node.onended = () => this.sounding.delete(node);
    const aheadSeconds = dueSeconds - this.context.currentTime;
    window.setTimeout(() => !this.ended && this.tell('next'), Math.max(0, aheadSeconds - AHEAD_SECONDS) * 1000);
  }

  private tell(message: ToMixer): void {
    this.isMixing ||= message === 'next';
    this.mixer?.postMessage(message);
  }

  /** One that is in the middle of a block would send it to whoever comes next. */
  private giveMixerBack(): void {
    if (this.isMixing || spare) this.mixer?.terminate();
    else spare = this.mixer;
    this.mixer = null;
  }
}
