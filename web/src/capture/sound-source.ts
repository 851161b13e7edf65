import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import workletUrl from './capture-worklet.ts?worker&url';
import type { CapturedBlock, CaptureOrder } from './capture-worklet';
import { ClockFit } from './clock-fit';
import { ShiftMeter } from './shift-meter';
import { TakeClock } from './take-clock';

/** What a take's voice comes from. The simulated microphone plays narration that ships with the product. */
export type SoundChoice = 'microphone' | 'simulated' | 'none';

export interface SoundSettings {
  choice: SoundChoice;
  /** Empty for the one the browser prefers. */
  deviceId: string;
  echoCancellation: boolean;
  noiseSuppression: boolean;
  /** How much later than told a tap was heard, as measured on this device. */
  delayMs: number;
}

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
  private isUnplugged = false;
  /** Between the page's clock and what the audio context has put out. */
  private readonly fit = new ClockFit();
  private meter: ShiftMeter | null = null;
  private input: MediaStreamAudioSourceNode | null = null;
  private measuredMs = -Infinity;
  /** From a sound to its place in the stream, beyond what the output's clock tells, once it was measured. */
  private delaySeconds: number | null = null;

  private constructor(
    readonly context: AudioContext,
    private readonly node: AudioWorkletNode,
    private stream: MediaStream | null,
    private readonly player: AudioBufferSourceNode | null,
    private settings: SoundSettings,
  ) {
    this.clock = new TakeClock();
    node.port.onmessage = ({ data }: MessageEvent<CapturedBlock>) => this.take(data);
    this.tie();
    this.ties = window.setInterval(() => this.tie(), TIE_EVERY_MS);
    // A telephone call, or the lid: the browser stops the sound.
    context.addEventListener('statechange', () => context.state !== 'running' && this.onLost());
    if (stream) this.hear(stream);
  }

  /** Opens a source. @throws NoMicrophone */
  static async open(settings: SoundSettings): Promise<SoundSource> {
    const { choice } = settings;
    const stream = choice === 'microphone' ? await openMicrophone(settings) : null;
    const context = new AudioContext({ sampleRate: CLOCK_HZ, latencyHint: 'interactive' });
    const closed = () => {
      stream?.getTracks().forEach((track) => track.stop());
      void context.close();
    };
    await running(context).catch((error: Error) => {
      closed();
      throw error;
    });
    await context.audioWorklet.addModule(workletUrl);
    const node = newCaptureNode(context);
    let player: AudioBufferSourceNode | null = null;
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
    return new SoundSource(context, node, stream, player, settings);
  }

  /** Captures from now on, or from a frame of the context on. */
  run(fromFrame = 0): void {
    if (this.player && this.clock.takeSamples === 0) this.player.start(fromFrame / CLOCK_HZ);
    this.order({ from: fromFrame });
  }

  /** Stops capturing; settles when the last sample has arrived. */
  async pause(): Promise<void> {
    const arrived = new Promise<void>((resolve) => (this.lastBlock = resolve));
    this.order('stop');
    await Promise.race([arrived, new Promise((resolve) => setTimeout(resolve, 500))]);
    this.clock.pause();
  }

  /**
   * Makes it ready to go on after it was lost: a microphone that was unplugged is opened anew, or another one that was chosen
   * meanwhile. Where there is none, it can be tried again. @throws NoMicrophone
   */
  async wake({ deviceId }: Pick<SoundSettings, 'deviceId'> = this.settings): Promise<void> {
    await running(this.context);
    if (!this.stream || (!this.isUnplugged && deviceId === this.settings.deviceId)) return;
    const settings = { ...this.settings, deviceId };
    const stream = await openMicrophone(settings);
    // Only now: one that cannot be had can be tried again.
    this.settings = settings;
    this.stopHearing();
    this.isUnplugged = false;
    this.stream = stream;
    this.hear(stream);
  }

  private stopHearing(): void {
    this.meter?.close();
    this.input?.disconnect();
    this.stream?.getTracks().forEach((track) => track.stop());
  }

  private hear(stream: MediaStream): void {
    const input = this.context.createMediaStreamSource(stream);
    input.connect(this.node);
    this.input = input;
    const [track] = stream.getAudioTracks();
    track.addEventListener('ended', () => {
      // One that was given up for another is not missed.
      if (this.stream !== stream) return;
      this.isUnplugged = true;
      input.disconnect();
      this.onLost();
    });
    this.meter = this.measure(track, input);
  }

  /** The audio context's time that is heard at a moment of `performance.now()`. */
  heardSecondsAt(performanceMs: number): number {
    return this.fit.isReady ? this.fit.contextSecondsAt(performanceMs) : this.context.currentTime;
  }

  close(): void {
    this.onLost = () => {};
    clearInterval(this.ties);
    this.stopHearing();
    void this.context.close().catch(() => {});
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
    this.follow(this.fit.aheadSecondsAt(nowMs) + (this.delaySeconds ?? this.statedDelaySeconds()), nowMs);
  }

  private follow(shiftSeconds: number, nowMs: number): void {
    this.clock.follow(shiftSeconds + (this.stream ? this.settings.delayMs / 1000 : 0), nowMs);
  }

  private order(order: CaptureOrder): void {
    this.node.port.postMessage(order);
  }

  /** Where the browser can, the clock follows what is measured; the delay found so serves while all is silent. */
  private measure(track: MediaStreamTrack, input: MediaStreamAudioSourceNode): ShiftMeter | null {
    const meter = ShiftMeter.of(track, (shiftSeconds) => {
      const nowMs = performance.now();
      this.measuredMs = nowMs;
      this.delaySeconds = shiftSeconds - this.fit.aheadSecondsAt(nowMs);
      this.follow(shiftSeconds, nowMs);
    });
    if (!meter) return null;
    const listener = newCaptureNode(this.context);
    listener.port.onmessage = ({ data }: MessageEvent<CapturedBlock>) => {
      const aheadSeconds = this.fit.aheadSecondsAt(performance.now());
      if (this.fit.isReady) meter.hear(data.firstFrame / CLOCK_HZ, data.samples, CLOCK_HZ, aheadSeconds);
    };
    input.connect(listener).connect(this.context.destination);
    const order: CaptureOrder = { from: 0 };
    listener.port.postMessage(order);
    return meter;
  }

  /**
   * That delay where it cannot be measured: the latencies the browser states, half a render burst of waiting, and the
   * graph's own render quantum. Without a microphone nothing is behind: ink goes with what is heard.
   */
  private statedDelaySeconds(): number {
    if (!this.stream) return 0;
    const settings: MediaTrackSettings & { latency?: number } = this.stream.getAudioTracks()[0]?.getSettings() ?? {};
    const { outputLatency, baseLatency } = this.context;
    return (outputLatency || 0) + baseLatency / 2 + (settings.latency ?? 0) + RENDER_QUANTUM_SAMPLES / CLOCK_HZ;
  }
}

/** A sound clock that has not begun to run by then never will. */
const STANDS_STILL_MS = 3000;
const CHECKED_EVERY_MS = 20;

/** Settles when a context's clock runs. Where there is no loudspeaker, some browsers let it stand still. @throws NoMicrophone */
async function running(context: AudioContext): Promise<void> {
  void context.resume().catch(() => {});
  const beganSeconds = context.currentTime;
  const untilMs = performance.now() + STANDS_STILL_MS;
  while (context.state !== 'running' || context.currentTime === beganSeconds) {
    if (performance.now() > untilMs) {
      throw new NoMicrophone(
        'The sound of this device stands still, and recordings are timed by it. Connect a loudspeaker or headphones, or try another browser.',
      );
    }
    await new Promise((resolve) => setTimeout(resolve, CHECKED_EVERY_MS));
  }
}

const newCaptureNode = (context: AudioContext): AudioWorkletNode =>
  new AudioWorkletNode(context, 'capture', { channelCount: 1, channelCountMode: 'explicit' });

async function openMicrophone(settings: SoundSettings): Promise<MediaStream> {
  const { deviceId, echoCancellation, noiseSuppression } = settings;
  try {
    return await navigator.mediaDevices.getUserMedia({
      audio: {
        channelCount: 1,
        autoGainControl: false,
        echoCancellation,
        noiseSuppression,
        // The one that was chosen, and no other: whoever chose it hears at once that it is missing.
        ...(deviceId && { deviceId: { exact: deviceId } }),
      },
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
    if (name === 'OverconstrainedError' || (deviceId && name === 'NotFoundError')) {
      throw new NoMicrophone('The microphone you chose is not plugged in. Plug it in, or choose another one.');
    }
    throw new NoMicrophone('No microphone was found. Plug one in, or record without voice and speak later.');
  }
}
