import { joinBytes } from '@kite-trail/core/formats/bytes';
import { encodeTakePart } from '@kite-trail/core/formats/take-part';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import { isPassing, retimed, type Change, type Mark } from '@kite-trail/core/lesson/mark';
import { levelOf, type Level } from '@kite-trail/core/sound/level';
import { joinHeard, type HeardVoice } from '@kite-trail/core/sound/profile';
import { sortMarks } from '@kite-trail/core/trail/timeline';
import type { FromVoiceEncoder, ToVoiceEncoder } from '../workers/voice-encoder.worker';
import VoiceEncoder from '../workers/voice-encoder.worker?worker';
import type { Journal, JournalTake } from './journal';
import type { SoundSource } from './sound-source';

/** With the encoder's own pages, marks and sound are in the journal within a second. */
export const PART_EVERY_MS = 600;

/**
 * Records one take: marks and sound on one clock, kept part by part in the journal while they come.
 * `unfinished` gives the strokes being written just now, so that a crash cuts them short instead of losing them.
 */
export class TakeRecorder {
  onPart: (n: number) => void = () => {};
  onLevel: (level: Level) => void = () => {};
  onEncoderFailed: (message: string) => void = () => {};
  unfinished: () => Mark[] = () => [];

  private readonly encoder: Worker | null;
  private marks: Mark[] = [];
  private sound: Uint8Array[] = [];
  private heard: HeardVoice[] = [];
  private nextPart = 0;
  private savedSamples = -1;
  private savedMs = 0;
  private saving = Promise.resolve();
  private encoded: (() => void) | null = null;

  private constructor(
    private readonly journal: Journal,
    readonly source: SoundSource,
    readonly id: TakeId,
    hasSound: boolean,
  ) {
    this.encoder = hasSound ? new VoiceEncoder() : null;
    this.encoder?.addEventListener('message', ({ data }: MessageEvent<FromVoiceEncoder>) => this.hear(data));
    source.onBlock = ({ samples }) => {
      this.onLevel(levelOf(samples));
      const message: ToVoiceEncoder = { samples };
      this.encoder?.postMessage(message, [samples.buffer]);
      // Browsers slow down the timers of a window that is out of sight, but not its sound.
      if (performance.now() - this.savedMs >= PART_EVERY_MS) void this.savePart();
    };
  }

  /** Makes everything ready, so that `run` begins without delay. */
  static async prepare(
    journal: Journal,
    source: SoundSource,
    take: Omit<JournalTake, 'ended'>,
    opening: readonly Mark[],
  ): Promise<TakeRecorder> {
    await journal.keepTake({ ...take, ended: false });
    const recorder = new TakeRecorder(journal, source, take.id, take.hasSound);
    recorder.marks.push(...opening);
    return recorder;
  }

  /** Records from now on, or from a frame of the source's context on. */
  run(fromFrame?: number): void {
    this.source.run(fromFrame);
  }

  /** Gives up a take that was prepared but not begun. */
  async discard(): Promise<void> {
    this.source.onBlock = () => {};
    this.source.close();
    this.encoder?.terminate();
    await this.journal.forget(this.id);
  }

  get lengthSamples(): number {
    return this.source.clock.takeSamples;
  }

  get isRunning(): boolean {
    return this.source.clock.isRunning;
  }

  get partCount(): number {
    return this.nextPart;
  }

  /**
   * Records a change made at a moment of `performance.now()`. While paused, it lands at once where the take stands;
   * what is only seen for a while is not recorded then.
   */
  mark(change: Change, performanceMs: number): void {
    if (!this.isRunning && isPassing(change)) return;
    this.marks.push(this.timed(change, performanceMs));
  }

  /** The mark a change would make. */
  timed(change: Change, performanceMs: number): Mark {
    const atSamples = this.source.clock.samplesAt(performanceMs);
    if (change.kind !== 'ink' || this.isRunning) return { ...change, atSamples };
    return { ...atOnce(change), atSamples };
  }

  async pause(): Promise<void> {
    await this.source.pause();
    await this.savePart();
  }

  /** Ends the take, which is kept as such: the last sound is encoded and the last part kept. */
  async end(take: JournalTake): Promise<void> {
    if (this.isRunning) await this.source.pause();
    this.source.close();
    await this.finishSound();
    await this.savePart(true);
    await this.journal.keepTake(take);
  }

  private async finishSound(): Promise<void> {
    if (!this.encoder) return;
    const encoded = new Promise<void>((resolve) => (this.encoded = resolve));
    const message: ToVoiceEncoder = 'finish';
    this.encoder.postMessage(message);
    await encoded;
    this.encoder.terminate();
  }

  private hear(message: FromVoiceEncoder): void {
    if ('bytes' in message) return void this.sound.push(message.bytes);
    if ('heard' in message) return void this.heard.push(message.heard);
    if ('failed' in message) this.onEncoderFailed(message.failed);
    this.encoded?.();
  }

  private savePart(last = false): Promise<void> {
    this.savedMs = performance.now();
    this.saving = this.saving.then(async () => {
      const toSamples = this.lengthSamples;
      const unfinished = last ? [] : this.unfinished();
      const news = this.marks.length + this.sound.length + this.heard.length + unfinished.length;
      if (toSamples === this.savedSamples && news === 0) return;
      const part = {
        toSamples,
        marks: sortMarks(this.marks),
        unfinished,
        sound: joinBytes(this.sound),
        heard: joinHeard(this.heard),
      };
      this.marks = [];
      this.sound = [];
      this.heard = [];
      this.savedSamples = toSamples;
      const n = this.nextPart++;
      await this.journal.keepPart(this.id, n, encodeTakePart(part));
      this.onPart(n);
    });
    return this.saving;
  }
}

/** Ink that is there whole at once. */
export const atOnce = <C extends Change>(change: C): C => retimed(change, () => 0);
