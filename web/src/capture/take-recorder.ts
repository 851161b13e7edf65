import { joinBytes } from '@kite-trail/core/formats/bytes';
import { encodeTakePart } from '@kite-trail/core/formats/take-part';
import type { LessonId, TakeId } from '@kite-trail/core/lesson/ids';
import { isPassing, retimed, type Change, type Mark } from '@kite-trail/core/lesson/mark';
import { levelOf, type Level } from '@kite-trail/core/sound/level';
import { joinHeard, type HeardVoice } from '@kite-trail/core/sound/profile';
import { sortMarks } from '@kite-trail/core/trail/timeline';
import type { TakePlan } from '@kite-trail/core/trail/plan';
import { PART_EVERY_MS, type EntryKey } from '../outbox/entry';
import type { Outbox } from '../outbox/outbox';
import type { FromVoiceEncoder, ToVoiceEncoder } from '../workers/sound/voice-encoder.worker';
import VoiceEncoder from '../workers/sound/voice-encoder.worker?worker';
import workletUrl from './capture-worklet.ts?worker&url';
import clockShiftUrl from '../workers/sound/clock-shift.worker?worker&url';
import encoderUrl from '../workers/sound/voice-encoder.worker?worker&url';
import { NoMicrophone, type SoundSource } from './sound-source';

const NOT_LOADED =
  'What records a voice could not be loaded: there is no network. Wait for it, or record without voice.';

/** A take about to be recorded, and where it is to play. */
export interface NewTake {
  id: TakeId;
  lesson: LessonId;
  hasSound: boolean;
  plan: TakePlan;
  /** The revision of the pages it begins on. */
  revision: number;
}

/**
 * Records one take: marks and sound on one clock, kept part by part in the outbox while they come.
 * `unfinished` gives the strokes being written just now, so that a crash cuts them short instead of losing them.
 */
export class TakeRecorder {
  onLevel: (level: Level) => void = () => {};
  onEncoderFailed: (message: string) => void = () => {};
  unfinished: () => Mark[] = () => [];

  private readonly encoder: Worker | null;
  private readonly ready: Promise<void>;
  private marks: Mark[] = [];
  private sound: Uint8Array[] = [];
  private heard: HeardVoice[] = [];
  private nextPart = 0;
  private savedSamples = -1;
  private savedMs = 0;
  private saving = Promise.resolve();
  private encoded: (() => void) | null = null;
  private isEncoderLost = false;

  private constructor(
    private readonly outbox: Outbox,
    private readonly key: EntryKey,
    readonly source: SoundSource,
    readonly take: NewTake,
  ) {
    this.encoder = take.hasSound ? new VoiceEncoder() : null;
    this.ready = this.encoder ? isReady(this.encoder) : Promise.resolve();
    this.encoder?.addEventListener('message', ({ data }: MessageEvent<FromVoiceEncoder>) => this.hear(data));
    this.encoder?.addEventListener('error', ({ message }) => this.loseEncoder(message));
    source.onBlock = ({ samples }) => {
      this.onLevel(levelOf(samples));
      const message: ToVoiceEncoder = { samples };
      this.encoder?.postMessage(message, [samples.buffer]);
      // Browsers slow down the timers of a window that is out of sight, but not its sound.
      if (performance.now() - this.savedMs >= PART_EVERY_MS) void this.savePart();
    };
  }

  /** Makes everything ready, so that `run` begins without delay. @throws NoMicrophone where voices cannot be recorded */
  static async prepare(
    outbox: Outbox,
    source: SoundSource,
    take: NewTake,
    opening: readonly Mark[],
  ): Promise<TakeRecorder> {
    const { id, lesson, hasSound, plan, revision } = take;
    const begun = { kind: 'take', take: id, hasSound, plan, revision, beganAtMs: Date.now(), payload: null } as const;
    // The school hears of it once something is recorded.
    const key = await outbox.add(lesson, begun, { isHeld: true });
    const recorder = new TakeRecorder(outbox, key, source, take);
    recorder.marks.push(...opening);
    await recorder.ready.catch(async (error: Error) => {
      await recorder.discard();
      throw error;
    });
    return recorder;
  }

  /** Something has been recorded: from now on the take is sent while it goes on. */
  begin(): void {
    this.outbox.release(this.key);
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
    await this.outbox.forget(this.take.id);
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

  /** Stops for good: the last sound is encoded and the last part kept. */
  async stop(): Promise<void> {
    if (this.isRunning) await this.source.pause();
    this.source.close();
    await this.finishSound();
    await this.savePart(true);
  }

  private async finishSound(): Promise<void> {
    if (!this.encoder || this.isEncoderLost) return;
    const encoded = new Promise<void>((resolve) => (this.encoded = resolve));
    const message: ToVoiceEncoder = 'finish';
    this.encoder.postMessage(message);
    await encoded;
    this.encoder.terminate();
  }

  private hear(message: FromVoiceEncoder): void {
    if ('ready' in message) return;
    if ('bytes' in message) return void this.sound.push(message.bytes);
    if ('heard' in message) return void this.heard.push(message.heard);
    if ('failed' in message) this.onEncoderFailed(message.failed);
    this.encoded?.();
  }

  /** The encoder is gone: what it has given so far is the voice. */
  private loseEncoder(message: string): void {
    this.isEncoderLost = true;
    this.onEncoderFailed(message);
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
      const { id, lesson } = this.take;
      await this.outbox.add(lesson, { kind: 'part', take: id, n, payload: encodeTakePart(part) });
    });
    return this.saving;
  }
}

/** Settles when an encoder can begin. @throws NoMicrophone when it cannot, such as where there is no network to load it from */
function isReady(encoder: Worker): Promise<void> {
  return new Promise((resolve, reject) => {
    const told = ({ data }: MessageEvent<FromVoiceEncoder>) => {
      encoder.removeEventListener('message', told);
      if ('failed' in data) reject(new NoMicrophone(`The voice cannot be encoded here: ${data.failed}`));
      else resolve();
    };
    encoder.addEventListener('message', told);
    encoder.addEventListener('error', () => reject(new NoMicrophone(NOT_LOADED)));
  });
}

/** Loads what records, so that a recording can begin without a network. */
export async function preloadRecorder(): Promise<void> {
  await Promise.all([workletUrl, encoderUrl, clockShiftUrl].map((url) => fetch(url))).catch(() => {});
}

/** Ink that is there whole at once. */
export const atOnce = <C extends Change>(change: C): C => retimed(change, () => 0);
