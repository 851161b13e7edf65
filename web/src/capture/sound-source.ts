import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import workletUrl from './capture-worklet.ts?worker&url';
import type { CapturedBlock } from './capture-worklet';
import { TakeClock } from './take-clock';

/** What a take's voice comes from. The simulated microphone plays narration that ships with the product. */
export type SoundChoice = 'microphone' | 'simulated' | 'none';

const SIMULATED_URL = '/stand-ins/narration.ogg';
const TIE_EVERY_MS = 250;

/** The microphone could not be used, with a message that says what to do. */
export class NoMicrophone extends Error {
  override readonly name = 'NoMicrophone';
}

/** An open source of sound: it captures blocks while it runs, and counts the take's clock by them. */
export class SoundSource {
  readonly clock: TakeClock;
  onBlock: (block: CapturedBlock) => void = () => {};
  /** The microphone went away. */
  onLost: () => void = () => {};
  private ties = 0;
  private lastBlock: (() => void) | null = null;

  private constructor(
    private readonly context: AudioContext,
    private readonly node: AudioWorkletNode,
    private readonly stream: MediaStream | null,
    private readonly player: AudioBufferSourceNode | null,
  ) {
    this.clock = new TakeClock(() => this.delaySeconds());
    node.port.onmessage = ({ data }: MessageEvent<CapturedBlock>) => this.take(data);
    const track = stream?.getAudioTracks()[0];
    track?.addEventListener('ended', () => this.onLost());
    this.tie();
    this.ties = window.setInterval(() => this.tie(), TIE_EVERY_MS);
  }

  /** Opens a source. @throws NoMicrophone */
  static async open(choice: SoundChoice): Promise<SoundSource> {
    const stream = choice === 'microphone' ? await openMicrophone() : null;
    const context = new AudioContext({ sampleRate: CLOCK_HZ, latencyHint: 'interactive' });
    await context.audioWorklet.addModule(workletUrl);
    const node = new AudioWorkletNode(context, 'capture', {
      numberOfInputs: 1,
      numberOfOutputs: 1,
      channelCount: 1,
      channelCountMode: 'explicit',
    });
    let player: AudioBufferSourceNode | null = null;
    if (stream) context.createMediaStreamSource(stream).connect(node);
    if (choice === 'simulated') {
      const narration = await (await fetch(SIMULATED_URL)).arrayBuffer();
      player = new AudioBufferSourceNode(context, {
        buffer: await context.decodeAudioData(narration),
        loop: true,
      });
      player.connect(node);
    }
    // Its silent output keeps the node, and with it the clock, going.
    node.connect(context.destination);
    await context.resume();
    return new SoundSource(context, node, stream, player);
  }

  run(): void {
    if (this.player && this.clock.takeSamples === 0) this.player.start();
    this.node.port.postMessage(true);
  }

  /** Stops capturing; settles when the last sample has arrived. */
  async pause(): Promise<void> {
    const arrived = new Promise<void>((resolve) => (this.lastBlock = resolve));
    this.node.port.postMessage(false);
    await Promise.race([arrived, new Promise((resolve) => setTimeout(resolve, 500))]);
    this.clock.pause();
  }

  close(): void {
    clearInterval(this.ties);
    this.stream?.getTracks().forEach((track) => track.stop());
    void this.context.close();
  }

  private take(block: CapturedBlock): void {
    if (block.samples.length > 0) {
      this.clock.count(block.firstFrame, block.samples.length);
      this.onBlock(block);
    }
    if (block.last) this.lastBlock?.();
  }

  private tie(): void {
    const { contextTime, performanceTime } = this.context.getOutputTimestamp();
    if (contextTime && performanceTime) this.clock.tie(performanceTime, contextTime);
  }

  /**
   * From a sound at the microphone to its place in the stream, beyond what the output's clock tells: the device's own
   * latency, the output's, and half of the burst in which the browser renders sound, which is how long a sample waits.
   */
  private delaySeconds(): number {
    const settings: MediaTrackSettings & { latency?: number } = this.stream?.getAudioTracks()[0]?.getSettings() ?? {};
    const { outputLatency, baseLatency } = this.context;
    return (outputLatency || 0) + baseLatency / 2 + (settings.latency ?? 0);
  }
}

async function openMicrophone(): Promise<MediaStream> {
  try {
    return await navigator.mediaDevices.getUserMedia({
      audio: { channelCount: 1, echoCancellation: false, noiseSuppression: false, autoGainControl: false },
    });
  } catch (error) {
    const name = error instanceof DOMException ? error.name : '';
    if (name === 'NotAllowedError') {
      throw new NoMicrophone(
        'The browser may not use the microphone. Allow it beside the address, or record without voice.',
      );
    }
    if (name === 'NotReadableError') {
      throw new NoMicrophone('Another program is using the microphone. Close it there, then try again.');
    }
    throw new NoMicrophone('No microphone was found. Plug one in, or record without voice and speak later.');
  }
}
