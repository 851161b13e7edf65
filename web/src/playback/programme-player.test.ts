import type { TakeId } from '@kite-trail/core/lesson/ids';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import type { Segment } from '@kite-trail/core/trail/programme';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { ProgrammePlayer } from './programme-player';

/** `MediaError.MEDIA_ERR_NETWORK` (HTML, 4.8.11.1). */
const NETWORK = 2;

/** An audio element that plays by the test's clock. */
class FakeAudio {
  static all: FakeAudio[] = [];
  /** There is no network. */
  static isLost = false;
  /** How often it was asked for. */
  loads = 0;
  /** Its player has got stuck, and does not say so. */
  isStuck = false;
  currentTime = 0;
  playbackRate = 1;
  preservesPitch = false;
  preload = '';
  paused = true;
  ended = false;
  seeking = false;
  error: { code: number } | null = null;
  private readonly heard = new Map<string, () => void>();

  constructor(readonly src: string) {
    FakeAudio.all.push(this);
  }

  getAttribute(): string {
    return this.src;
  }

  async play(): Promise<void> {
    this.paused = FakeAudio.isLost;
    if (FakeAudio.isLost) this.error = { code: NETWORK };
    if (this.isStuck) await new Promise(() => {});
  }
  pause(): void {
    this.paused = true;
  }
  addEventListener(kind: string, act: () => void): void {
    this.heard.set(kind, act);
  }
  hear(kind: string): void {
    this.heard.get(kind)?.();
  }
  removeAttribute(): void {}
  load(): void {
    this.loads++;
    this.error = null;
    this.isStuck = false;
    this.seeking = false;
    this.currentTime = 0;
  }
}

let nowMs: number;
let onFrame: ((ms: number) => void) | null;

beforeEach(() => {
  nowMs = 0;
  onFrame = null;
  FakeAudio.all = [];
  FakeAudio.isLost = false;
  vi.stubGlobal('Audio', FakeAudio);
  vi.stubGlobal('MediaError', { MEDIA_ERR_NETWORK: NETWORK });
  vi.stubGlobal('performance', { now: () => nowMs });
  vi.stubGlobal('requestAnimationFrame', (act: (ms: number) => void) => ((onFrame = act), 1));
  vi.stubGlobal('cancelAnimationFrame', () => (onFrame = null));
});
afterEach(() => vi.unstubAllGlobals());

/** Lets time go by; sounds that play go on with it. */
async function pass(ms: number): Promise<void> {
  for (const end = nowMs + ms; nowMs < end;) {
    nowMs += 10;
    for (const audio of FakeAudio.all)
      if (!audio.paused && !audio.isStuck) audio.currentTime += (audio.playbackRate * 10) / 1000;
    const act = onFrame;
    onFrame = null;
    act?.(nowMs);
    await Promise.resolve();
  }
}

const segment = (take: string, fromSeconds: number, toSeconds: number, pace = 1): Segment => ({
  kind: 'play',
  take: take as TakeId,
  fromSamples: fromSeconds * CLOCK_HZ,
  toSamples: toSeconds * CLOCK_HZ,
  pace,
});
const secondsOf = (player: ProgrammePlayer) => player.samples / CLOCK_HZ;

describe('playing a programme', () => {
  it('that is paused, or played elsewhere, waits for nothing', async () => {
    const player = new ProgrammePlayer([segment('a', 0, 60)], () => 'a.ogg');
    const told: boolean[] = [];
    player.onWaiting = (waiting) => told.push(waiting);
    await player.play();
    FakeAudio.all[0].hear('waiting');
    expect(told.at(-1)).toBe(true);
    player.pause();
    expect(told.at(-1)).toBe(false);
  });

  it('waits where it is while the network is lost, and goes on with its sound when that is back', async () => {
    const player = new ProgrammePlayer([segment('a', 0, 60)], () => 'a.ogg');
    const told: boolean[] = [];
    player.onWaiting = (waiting) => told.push(waiting);
    await player.play();
    await pass(3000);
    FakeAudio.isLost = true;
    void FakeAudio.all[0].play();
    await pass(10_000);
    expect(secondsOf(player)).toBeCloseTo(3, 1);
    expect(told.at(-1)).toBe(true);
    expect(FakeAudio.all[0].loads).toBeGreaterThan(2);
    FakeAudio.isLost = false;
    await pass(2100);
    expect(secondsOf(player)).toBeGreaterThan(3);
    FakeAudio.all.at(-1)!.hear('playing');
    expect(told.at(-1)).toBe(false);
    const before = secondsOf(player);
    await pass(2000);
    expect(secondsOf(player) - before).toBeCloseTo(2, 1);
  });

  it.each(['at its start', 'in the middle', 'in a seek'])('asks again for a sound that got stuck %s', async (where) => {
    const player = new ProgrammePlayer([segment('a', 2, 60)], () => 'a.ogg');
    const told: boolean[] = [];
    player.onWaiting = (waiting) => told.push(waiting);
    const [sound] = FakeAudio.all;
    sound.isStuck = where === 'at its start';
    void player.play();
    if (where !== 'at its start') await pass(3000);
    sound.isStuck = true;
    if (where === 'in a seek') {
      player.seek(30 * CLOCK_HZ);
      sound.seeking = true;
    }
    const stood = secondsOf(player);
    await pass(4900);
    expect([secondsOf(player), sound.loads]).toEqual([stood, 0]);
    await pass(3100);
    expect([sound.loads, told]).toEqual([1, [true]]);
    expect(secondsOf(player)).toBeGreaterThan(stood + 2);
  });

  it('waits for a sound that loads slowly as long as it loads', async () => {
    const player = new ProgrammePlayer([segment('a', 0, 60)], () => 'a.ogg');
    const [sound] = FakeAudio.all;
    sound.isStuck = true;
    void player.play();
    for (let n = 0; n < 10; n++) {
      await pass(3000);
      sound.hear('progress');
    }
    expect(sound.loads).toBe(0);
  });

  it('gives a sound twice as long each time it was asked for in vain', async () => {
    const player = new ProgrammePlayer([segment('a', 0, 60)], () => 'a.ogg');
    const [sound] = FakeAudio.all;
    sound.load = () => void sound.loads++;
    sound.isStuck = true;
    void player.play();
    const loads: number[] = [];
    for (const seconds of [6, 8, 4, 16, 6]) {
      await pass(seconds * 1000);
      loads.push(sound.loads);
    }
    expect(loads).toEqual([1, 1, 2, 2, 3]);
  });

  it('follows its sound, whatever the page’s clock says', async () => {
    const player = new ProgrammePlayer([segment('a', 2, 10)], () => 'a.ogg');
    await player.play();
    expect(FakeAudio.all[0].currentTime).toBe(2);
    expect(FakeAudio.all[0].preservesPitch).toBe(true);
    await pass(1000);
    FakeAudio.all[0].currentTime += 0.5;
    await pass(10);
    expect(secondsOf(player)).toBeCloseTo(1.51, 2);
  });

  it('takes over the sound that loads already, once', async () => {
    const begun = new FakeAudio('a.ogg');
    const player = new ProgrammePlayer([segment('a', 0, 60)], () => 'a.ogg', begun as unknown as HTMLAudioElement);
    await player.play();
    expect(FakeAudio.all).toEqual([begun]);
    expect(begun.paused).toBe(false);
    begun.error = { code: NETWORK };
    await pass(3000);
    // Loaded anew, it is the same: a phone lets no other one play than that which was touched for.
    expect([FakeAudio.all.length, begun.loads, begun.paused]).toEqual([1, 1, false]);
    const other = new FakeAudio('b.ogg');
    new ProgrammePlayer([segment('a', 0, 60)], () => 'a.ogg', other as unknown as HTMLAudioElement);
    expect(FakeAudio.all.length).toBe(3);
  });

  it('goes on by the page’s clock where there is no sound', async () => {
    const player = new ProgrammePlayer([segment('a', 0, 3)], () => null);
    player.setRate(1.5);
    await player.play();
    await pass(1000);
    expect(secondsOf(player)).toBeCloseTo(1.5, 2);
  });

  it('hops over what was cut, from one take to the next, and stops at the end', async () => {
    const player = new ProgrammePlayer([segment('a', 0, 1), segment('a', 3, 4), segment('b', 5, 6)], (take) => take);
    const told: boolean[] = [];
    player.onPlaying = (playing) => told.push(playing);
    await player.play();
    await pass(1100);
    expect(FakeAudio.all[0].currentTime).toBeGreaterThan(3);
    await pass(1000);
    const [first, second] = FakeAudio.all;
    expect([first.paused, second.paused]).toEqual([true, false]);
    expect(second.currentTime).toBeGreaterThan(5);
    await pass(1200);
    expect(player.samples).toBe(player.lengthSamples);
    expect(second.paused).toBe(true);
    expect(told).toEqual([true, false]);
  });

  it('starts anew when play is pressed at the end', async () => {
    const player = new ProgrammePlayer([segment('a', 0, 1)], () => 'a');
    player.seek(5 * CLOCK_HZ);
    expect(player.samples).toBe(player.lengthSamples);
    await player.play();
    expect(player.samples).toBe(0);
    expect(FakeAudio.all[0].currentTime).toBe(0);
  });

  it('does not play on when it was paused while the sound was starting', async () => {
    const player = new ProgrammePlayer([segment('a', 0, 5)], () => 'a');
    const starting = player.play();
    player.pause();
    await starting;
    expect(onFrame).toBeNull();
    expect(FakeAudio.all[0].paused).toBe(true);
  });
});
