import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import workletUrl from './capture-worklet.ts?worker&url';
import type { CapturedBlock } from './capture-worklet';
import { ClockFit } from './clock-fit';
import { ShiftMeter } from './shift-meter';
import { TakeClock } from './take-clock';

/** What a take's voice comes from. The simulated microphone plays narration that ships with the product. */
export type SoundChoice = 'microphone' | 'simulated' | 'none';

const SIMULATED_URL = '/stand-ins/narration.ogg';
const TIE_EVERY_MS = 100;
/** So long a measured shift counts as current. */
const MEASURED_FOR_MS = 2000;
/** The first pairs an audio context gives were measured to be off by 20 ms and more. */
const SETTLED_SECONDS = 0.3;
/** Web Audio renders this many samples at a time (W3C Web Audio, section 2.5). */
const RENDER_QUANTUM_SAMPLES = 128;

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
  /** Between the page's clock and what the audio context has put out. */
  private readonly fit = new ClockFit();
  private readonly meter: ShiftMeter | null;
  private measuredMs = -Infinity;
  /** From a sound to its place in the stream, beyond what the output's clock tells, once it was measured. */
  private delaySeconds: number | null = null;

  private constructor(
    private readonly context: AudioContext,
    private readonly node: AudioWorkletNode,
    private readonly stream: MediaStream | null,
    private readonly input: MediaStreamAudioSourceNode | null,
    private readonly player: AudioBufferSourceNode | null,
  ) {
    this.clock = new TakeClock();
    node.port.onmessage = ({ data }: MessageEvent<CapturedBlock>) => this.take(data);
    this.tie();
    this.ties = window.setInterval(() => this.tie(), TIE_EVERY_MS);
    const track = stream?.getAudioTracks()[0];
    track?.addEventListener('ended', () => this.onLost());
    this.meter = track ? this.measure(track) : null;
  }

  /** Opens a source. @throws NoMicrophone */
  static async open(choice: SoundChoice): Promise<SoundSource> {
    const stream = choice === 'microphone' ? await openMicrophone() : null;
    const context = new AudioContext({ sampleRate: CLOCK_HZ, latencyHint: 'interactive' });
    await context.audioWorklet.addModule(workletUrl);
    const node = newCaptureNode(context);
    let player: AudioBufferSourceNode | null = null;
    const input = stream && context.createMediaStreamSource(stream);
    input?.connect(node);
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
    return new SoundSource(context, node, stream, input, player);
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
    this.meter?.close();
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
    const { contextTime = 0, performanceTime = 0 } = this.context.getOutputTimestamp();
    if (contextTime > SETTLED_SECONDS) this.fit.add(performanceTime, contextTime);
    const nowMs = performance.now();
    if (!this.fit.isReady || nowMs - this.measuredMs < MEASURED_FOR_MS) return;
    this.clock.follow(this.fit.aheadSecondsAt(nowMs) + (this.delaySeconds ?? this.statedDelaySeconds()), nowMs);
  }

  /** Where the browser can, the clock follows what is measured; the delay found so serves while all is silent. */
  private measure(track: MediaStreamTrack): ShiftMeter | null {
    const meter = ShiftMeter.of(track, (shiftSeconds) => {
      const nowMs = performance.now();
      this.measuredMs = nowMs;
      this.delaySeconds = shiftSeconds - this.fit.aheadSecondsAt(nowMs);
      this.clock.follow(shiftSeconds, nowMs);
    });
    if (!meter) return null;
    const listener = newCaptureNode(this.context);
    listener.port.onmessage = ({ data }: MessageEvent<CapturedBlock>) => {
      const aheadSeconds = this.fit.aheadSecondsAt(performance.now());
      if (this.fit.isReady) meter.hear(data.firstFrame / CLOCK_HZ, data.samples, CLOCK_HZ, aheadSeconds);
    };
    this.input?.connect(listener).connect(this.context.destination);
    listener.port.postMessage(true);
    return meter;
  }

  /**
   * That delay where it cannot be measured: the latencies the browser states, half a render burst of waiting, and the
   * graph's own render quantum.
   */
  private statedDelaySeconds(): number {
    const settings: MediaTrackSettings & { latency?: number } = this.stream?.getAudioTracks()[0]?.getSettings() ?? {};
    const { outputLatency, baseLatency } = this.context;
    const waiting = this.stream ? RENDER_QUANTUM_SAMPLES / CLOCK_HZ : 0;
    return (outputLatency || 0) + baseLatency / 2 + (settings.latency ?? 0) + waiting;
  }
}

const newCaptureNode = (context: AudioContext): AudioWorkletNode =>
  new AudioWorkletNode(context, 'capture', { channelCount: 1, channelCountMode: 'explicit' });

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
