import type { TakeId } from '@kite-trail/core/lesson/ids';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import {
  placeSegments,
  programmeLength,
  voiceGoesOn,
  voiceOf,
  type PlacedSegment,
  type Programme,
} from '@kite-trail/core/trail/programme';
import type { Player } from './player';

const ASKED_AGAIN_MS = 2000;
/**
 * So long may a sound neither play nor load before it is asked for again: browsers' own players get stuck, too, as in a seek. Each time
 * it is in vain it may take twice as long: on a slow line nothing comes for longer, and what is asked for anew begins anew.
 */
const STUCK_MS = 5000;

/** Whether the network was lost while a sound was loading. One that is not there at all is no such thing: the page's clock leads then. */
const hasBrokenOff = ({ error }: HTMLAudioElement): boolean =>
  error !== null && (error.code === MediaError.MEDIA_ERR_NETWORK || !navigator.onLine);

/**
 * Plays a programme's sound and is the clock of its pictures. Where a segment has sound, its audio element leads (its
 * pitch kept at any speed); where it has none, the page's own clock does.
 */
export class ProgrammePlayer implements Player {
  onTick: (samples: number) => void = () => {};
  onPlaying: (playing: boolean) => void = () => {};
  /** Whether what is to be heard has not come yet, or no longer comes: then everything waits for it. */
  onWaiting: (waiting: boolean) => void = () => {};
  private readonly placed: PlacedSegment[];
  private readonly sounds = new Map<TakeId, HTMLAudioElement>();
  private position = 0;
  private playing = false;
  private rate = 1;
  private frame = 0;
  private lastMs = 0;
  /** When a sound was last asked for again. */
  private askedMs = 0;
  /** When there was last a sign that the sound plays or loads, and where it was then. */
  private sign = { atMs: 0, seconds: 0 };
  private patienceMs = STUCK_MS;

  constructor(
    programme: Programme,
    private readonly soundUrl: (take: TakeId) => string | null,
    /** A sound that loads already, and need not be asked for again. */
    private begun: HTMLAudioElement | null = null,
  ) {
    this.placed = placeSegments(programme).filter((one) => one.endSamples > one.startSamples);
    this.lengthSamples = programmeLength(programme);
    if (this.placed[0]) this.soundOf(this.placed[0]);
  }

  readonly lengthSamples: number;

  get samples(): number {
    return this.position;
  }

  async play(): Promise<void> {
    if (this.playing || this.placed.length === 0) return;
    if (this.position >= this.lengthSamples) this.position = 0;
    this.playing = true;
    this.lastMs = performance.now();
    this.onPlaying(true);
    // Whether the sound starts at all is watched, too.
    this.frame = requestAnimationFrame((ms) => this.tick(ms));
    await this.startSound();
  }

  pause(): void {
    if (!this.playing) return;
    this.playing = false;
    cancelAnimationFrame(this.frame);
    for (const sound of this.sounds.values()) sound.pause();
    this.onWaiting(false);
    this.onPlaying(false);
  }

  seek(samples: number): void {
    this.position = Math.min(this.lengthSamples, Math.max(0, samples));
    if (this.playing) void this.startSound();
    this.onTick(this.position);
  }

  setRate(rate: number): void {
    this.rate = rate;
    for (const sound of this.sounds.values()) sound.playbackRate = rate;
  }

  dispose(): void {
    this.pause();
    for (const sound of this.sounds.values()) {
      sound.removeAttribute('src');
      sound.load();
    }
    this.sounds.clear();
  }

  private tick(nowMs: number): void {
    if (!this.playing) return;
    const elapsedMs = Math.max(0, nowMs - this.lastMs);
    this.lastMs = nowMs;
    const placed = this.segmentAt(this.position);
    const sound = placed && this.soundOf(placed);
    if (sound && (hasBrokenOff(sound) || this.isStuck(sound, nowMs))) {
      if (nowMs - this.askedMs > ASKED_AGAIN_MS) this.askAgain(sound, nowMs);
    } else if (sound && !sound.ended && !sound.error) {
      const into = sound.currentTime * CLOCK_HZ - voiceOf(placed.segment)!.fromSamples;
      // While the element is still seeking it may tell of where it was.
      if (!sound.seeking) this.position = Math.max(placed.startSamples, placed.startSamples + into);
    } else {
      this.position += (elapsedMs / 1000) * CLOCK_HZ * this.rate;
    }
    if (placed && this.position >= placed.endSamples) void this.enterNext(placed);
    this.onTick(Math.min(this.position, this.lengthSamples));
    if (this.playing) this.frame = requestAnimationFrame((ms) => this.tick(ms));
  }

  private async enterNext(done: PlacedSegment): Promise<void> {
    const next = this.placed[this.placed.indexOf(done) + 1];
    if (!next) {
      this.position = this.lengthSamples;
      this.pause();
      return;
    }
    this.position = next.startSamples;
    if (!voiceGoesOn(done.segment, next.segment)) await this.startSound();
  }

  /** Lets only the sound of the segment at the playhead play, from where it belongs. */
  private async startSound(): Promise<void> {
    const placed = this.segmentAt(this.position);
    const sound = placed && this.soundOf(placed);
    for (const other of this.sounds.values()) if (other !== sound) other.pause();
    if (!placed || !sound) return;
    sound.currentTime = (voiceOf(placed.segment)!.fromSamples + this.position - placed.startSamples) / CLOCK_HZ;
    sound.playbackRate = this.rate;
    sound.preservesPitch = true;
    this.sign = { atMs: performance.now(), seconds: sound.currentTime };
    // A sound that cannot play (none left, or not loaded) leaves the page's clock to lead.
    if (this.playing) await sound.play().catch(() => {});
  }

  private isStuck(sound: HTMLAudioElement, nowMs: number): boolean {
    if (sound.ended || sound.error) return false;
    const { currentTime: seconds } = sound;
    if (seconds !== this.sign.seconds) this.goesOn(nowMs, seconds);
    return nowMs - this.sign.atMs > this.patienceMs;
  }

  private goesOn(atMs: number, seconds = this.sign.seconds): void {
    this.sign = { atMs, seconds };
    this.patienceMs = STUCK_MS;
  }

  /** The same element loads anew: a phone lets no other one play than that which was touched for. */
  private askAgain(sound: HTMLAudioElement, nowMs: number): void {
    this.askedMs = nowMs;
    this.patienceMs *= 2;
    this.onWaiting(true);
    sound.load();
    void this.startSound();
  }

  private segmentAt(samples: number): PlacedSegment | undefined {
    return this.placed.findLast((one) => one.startSamples <= samples);
  }

  private soundOf(placed: PlacedSegment): HTMLAudioElement | undefined {
    const take = voiceOf(placed.segment)?.take;
    if (!take) return undefined;
    const known = this.sounds.get(take);
    if (known) return known;
    const url = this.soundUrl(take);
    if (!url) return undefined;
    const isBegun = this.begun?.getAttribute('src') === url;
    const sound = isBegun ? this.begun! : new Audio(url);
    if (isBegun) this.begun = null;
    sound.preload = 'auto';
    sound.addEventListener('waiting', () => this.playing && this.onWaiting(true));
    sound.addEventListener('playing', () => this.onWaiting(false));
    sound.addEventListener('progress', () => this.goesOn(performance.now()));
    this.sounds.set(take, sound);
    return sound;
  }
}
