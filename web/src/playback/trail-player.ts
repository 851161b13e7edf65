import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { slice } from '@kite-trail/core/trail/edit';
import { programmeLength, type Programme } from '@kite-trail/core/trail/programme';
import type { Player } from './player';
import { VoicePlayback, type Voices } from './voice-playback';

/** Between telling the sound card to begin and its beginning. */
const HEAD_START_SECONDS = 0.06;
/** What is heard at a moment that is only passed over, and how loud. */
const GLIMPSE_SAMPLES = 0.14 * CLOCK_HZ;
const GLIMPSE_GAIN = 0.45;
/** So long after the last sound the sound card is let go: kept open, it drains the battery of a tablet. */
const REST_AFTER_MS = 10_000;

/**
 * Plays a programme as it will be shared, mastered and without a gap at splices, at any speed. The audio context's clock is
 * the clock of its pictures.
 */
export class TrailPlayer implements Player {
  onTick: (samples: number) => void = () => {};
  onPlaying: (playing: boolean) => void = () => {};
  readonly lengthSamples: number;
  private static context: AudioContext | null = null;
  /** Who played last. */
  private static latest: TrailPlayer | null = null;
  private static restTimer = 0;
  private position = 0;
  private rate = 1;
  private playing = false;
  private playback: VoicePlayback | null = null;
  /** When, by the context's clock, which moment is heard. */
  private began = { seconds: 0, samples: 0 };
  private frame = 0;
  private glimpse: VoicePlayback | null = null;
  private isGlimpsing = false;

  /** @param voices where the programme's voices are, and how they are mastered */
  constructor(
    private readonly programme: Programme,
    private readonly voices: (of: Programme) => Voices,
  ) {
    this.lengthSamples = programmeLength(programme);
  }

  get samples(): number {
    return this.position;
  }

  async play(): Promise<void> {
    if (this.playing || this.lengthSamples === 0) return;
    if (this.position >= this.lengthSamples) this.seek(0);
    this.playing = true;
    this.endGlimpse();
    await this.begin();
    if (this.playing) this.onPlaying(true);
  }

  pause(): void {
    if (!this.playing) return;
    this.playing = false;
    this.silence();
    TrailPlayer.restSoon();
    this.onPlaying(false);
  }

  seek(samples: number): void {
    this.position = Math.min(this.lengthSamples, Math.max(0, Math.round(samples)));
    this.onTick(this.position);
    if (this.playing) void this.begin();
  }

  /** Seeks, and lets what is there be heard softly, as when a hand moves along a tape. */
  scrub(samples: number): void {
    this.seek(samples);
    if (!this.playing && !this.isGlimpsing) void this.sound();
  }

  setRate(rate: number): void {
    this.rate = rate;
    if (this.playing) void this.begin();
  }

  dispose(): void {
    this.pause();
    this.endGlimpse();
  }

  private async begin(): Promise<void> {
    this.silence();
    TrailPlayer.latest = this;
    const context = TrailPlayer.open();
    const from = this.position;
    const rest = slice(this.programme, from, this.lengthSamples);
    const playback = await this.prepare(context, rest, this.rate);
    // Somebody may have paused, or gone elsewhere, while it was being made ready.
    if (!this.playing || this.position !== from || this.playback) return playback.stop();
    const seconds = context.currentTime + HEAD_START_SECONDS;
    this.playback = playback;
    this.began = { seconds, samples: from };
    playback.start(seconds);
    this.frame = requestAnimationFrame(() => this.tick());
  }

  private async prepare(context: AudioContext, part: Programme, rate: number, gain?: number): Promise<VoicePlayback> {
    clearTimeout(TrailPlayer.restTimer);
    await context.resume();
    return VoicePlayback.prepare(context, { ...this.voices(this.programme), programme: part, rate }, gain);
  }

  private tick(): void {
    if (!this.playing || !this.playback) return;
    const since = heardSeconds(TrailPlayer.open()) - this.began.seconds;
    this.position = Math.min(this.lengthSamples, this.began.samples + Math.max(0, since) * CLOCK_HZ * this.rate);
    const isAtEnd = this.position >= this.lengthSamples;
    if (isAtEnd) this.pause();
    this.onTick(this.position);
    if (this.playing) this.frame = requestAnimationFrame(() => this.tick());
  }

  private silence(): void {
    cancelAnimationFrame(this.frame);
    this.playback?.stop();
    this.playback = null;
  }

  private async sound(): Promise<void> {
    this.isGlimpsing = true;
    const from = this.position;
    const part = slice(this.programme, from, from + GLIMPSE_SAMPLES);
    const context = TrailPlayer.open();
    const glimpse = part.length > 0 ? await this.prepare(context, part, 1, GLIMPSE_GAIN) : null;
    this.endGlimpse();
    if (!this.playing && glimpse) {
      this.glimpse = glimpse;
      glimpse.start(context.currentTime + 0.01);
      await new Promise((resolve) => setTimeout(resolve, (GLIMPSE_SAMPLES / CLOCK_HZ) * 1000));
    } else {
      glimpse?.stop();
    }
    this.isGlimpsing = false;
    TrailPlayer.restSoon();
    // The hand has moved on meanwhile.
    if (this.position !== from && !this.playing) void this.sound();
  }

  private endGlimpse(): void {
    this.glimpse?.stop();
    this.glimpse = null;
  }

  /** One context serves all players of a page: browsers allow few. */
  private static open(): AudioContext {
    TrailPlayer.context ??= new AudioContext({ sampleRate: CLOCK_HZ, latencyHint: 'interactive' });
    return TrailPlayer.context;
  }

  private static restSoon(): void {
    clearTimeout(TrailPlayer.restTimer);
    TrailPlayer.restTimer = setTimeout(() => {
      if (!TrailPlayer.latest?.playing) void TrailPlayer.context?.suspend();
    }, REST_AFTER_MS);
  }
}

/** The context's time of what is heard just now (W3C Web Audio, `getOutputTimestamp`). */
function heardSeconds(context: AudioContext): number {
  const { contextTime = 0, performanceTime = 0 } = context.getOutputTimestamp();
  if (performanceTime === 0) return context.currentTime - context.outputLatency;
  // Right after a rest, the last timestamp is one of before it; but nothing is heard that is still to come.
  return Math.min(context.currentTime, contextTime + (performance.now() - performanceTime) / 1000);
}
