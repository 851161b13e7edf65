import type { TakeId } from '@kite-trail/core/lesson/ids';
import { AS_RECORDED } from '@kite-trail/core/sound/mastering';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { programmeLength, type Programme, rangeOf } from '@kite-trail/core/trail/programme';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { TrailPlayer as Player } from './trail-player';

/** A voice that says when it was to sound, and from which moment of its take. */
class FakeVoice {
  startedAt: number | null = null;
  isStopped = false;

  constructor(
    readonly programme: Programme,
    readonly rate: number,
    readonly gain: number,
  ) {}
  start(atSeconds: number): void {
    this.startedAt = atSeconds;
  }
  stop(): void {
    this.isStopped = true;
  }
  get fromSeconds(): number {
    return rangeOf(this.programme[0]).fromSamples / CLOCK_HZ;
  }
  get seconds(): number {
    return programmeLength(this.programme) / CLOCK_HZ;
  }
}

const made = vi.hoisted(() => ({ voices: [] as FakeVoice[], ready: [] as (() => void)[] }));
vi.mock('./voice-playback', () => ({
  VoicePlayback: {
    prepare: (_: unknown, { programme, rate }: { programme: Programme; rate: number }, gain = 1) => {
      const voice = new FakeVoice(programme, rate, gain);
      made.voices.push(voice);
      return new Promise((resolve) => made.ready.push(() => resolve(voice)));
    },
  },
}));

/** The sound card's clock, which the test moves on. */
let heard: number;
let timestamp: AudioTimestamp;
let isAwake: boolean;
let onFrame: (() => void) | null;
let TrailPlayer: typeof Player;

beforeEach(async () => {
  vi.useFakeTimers();
  heard = 100;
  timestamp = {};
  isAwake = false;
  onFrame = null;
  made.voices = [];
  made.ready = [];
  vi.stubGlobal(
    'AudioContext',
    class {
      readonly outputLatency = 0;
      get currentTime(): number {
        return heard;
      }
      async resume(): Promise<void> {
        isAwake = true;
      }
      async suspend(): Promise<void> {
        isAwake = false;
      }
      getOutputTimestamp(): AudioTimestamp {
        return timestamp;
      }
    },
  );
  vi.stubGlobal('requestAnimationFrame', (act: () => void) => ((onFrame = act), 1));
  vi.stubGlobal('cancelAnimationFrame', () => (onFrame = null));
  // A context that another test has opened is not used again.
  vi.resetModules();
  ({ TrailPlayer } = await import('./trail-player'));
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** Lets what was asked for be made ready. */
async function ready(): Promise<void> {
  await vi.advanceTimersByTimeAsync(0);
  for (const voice of made.ready.splice(0)) voice();
  await vi.advanceTimersByTimeAsync(0);
}

function passSeconds(seconds: number): void {
  heard += seconds;
  const act = onFrame;
  onFrame = null;
  act?.();
}

const part = (fromSeconds: number, toSeconds: number) => ({
  kind: 'play' as const,
  take: 'take-one' as TakeId,
  fromSamples: fromSeconds * CLOCK_HZ,
  toSamples: toSeconds * CLOCK_HZ,
  pace: 1,
});
const PROGRAMME: Programme = [part(0, 4), part(6, 10)];

function newPlayer() {
  const player = new TrailPlayer(PROGRAMME, (programme) => ({ programme, urls: new Map(), mastering: AS_RECORDED }));
  const told: boolean[] = [];
  player.onPlaying = (playing) => told.push(playing);
  return { player, told, at: () => player.samples / CLOCK_HZ };
}

describe('playing a trail', () => {
  it('goes by the clock of what is heard, from where it was, to its end', async () => {
    const { player, told, at } = newPlayer();
    player.seek(3 * CLOCK_HZ);
    void player.play();
    await ready();
    const [voice] = made.voices;
    expect([voice.fromSeconds, voice.seconds, voice.rate]).toEqual([3, 5, 1]);
    // Until the first sound is heard, the picture waits.
    passSeconds(voice.startedAt! - heard);
    expect(at()).toBe(3);
    passSeconds(2);
    expect(at()).toBeCloseTo(5, 6);
    passSeconds(9);
    expect([at(), player.samples]).toEqual([8, player.lengthSamples]);
    expect([voice.isStopped, told]).toEqual([true, [true, false]]);
    void player.play();
    expect(at()).toBe(0);
  });

  it('at another speed is as much further along', async () => {
    const { player, at } = newPlayer();
    player.setRate(1.5);
    void player.play();
    await ready();
    passSeconds(made.voices[0].startedAt! - heard + 2);
    expect([made.voices[0].rate, at()]).toEqual([1.5, 3]);
  });

  it('goes on elsewhere when it is sought, and nothing of before is heard', async () => {
    const { player, at } = newPlayer();
    void player.play();
    await ready();
    player.seek(5 * CLOCK_HZ);
    await ready();
    const [before, now] = made.voices;
    expect([before.isStopped, now.isStopped, now.fromSeconds]).toEqual([true, false, 7]);
    passSeconds(now.startedAt! - heard + 1);
    expect(at()).toBeCloseTo(6, 6);
  });

  it('does not begin when it was paused before it was ready', async () => {
    const { player, told } = newPlayer();
    void player.play();
    await vi.advanceTimersByTimeAsync(0);
    player.pause();
    await ready();
    expect(made.voices.map(({ startedAt, isStopped }) => [startedAt, isStopped])).toEqual([[null, true]]);
    expect(told).toEqual([false]);
  });

  it('sounds once, from the last of several moments sought while it is made ready', async () => {
    const { player } = newPlayer();
    void player.play();
    await vi.advanceTimersByTimeAsync(0);
    player.seek(1 * CLOCK_HZ);
    await vi.advanceTimersByTimeAsync(0);
    player.seek(2 * CLOCK_HZ);
    await ready();
    const sounding = made.voices.filter(({ startedAt, isStopped }) => startedAt !== null && !isStopped);
    expect(sounding.map(({ fromSeconds }) => fromSeconds)).toEqual([2]);
  });
});

describe('scrubbing along a trail', () => {
  it('lets a moment be heard softly, and then where the hand has come to', async () => {
    const { player } = newPlayer();
    player.scrub(1 * CLOCK_HZ);
    await ready();
    player.scrub(2 * CLOCK_HZ);
    player.scrub(3 * CLOCK_HZ);
    expect(made.voices).toHaveLength(1);
    await vi.advanceTimersByTimeAsync(200);
    await ready();
    expect(made.voices.map(({ fromSeconds }) => fromSeconds)).toEqual([1, 3]);
    expect(made.voices.every(({ gain, seconds }) => gain < 1 && seconds < 0.2)).toBe(true);
  });

  it('is silent at the very end, and gives way to playing', async () => {
    const { player } = newPlayer();
    player.scrub(player.lengthSamples);
    await ready();
    expect(made.voices).toEqual([]);
    player.scrub(2 * CLOCK_HZ);
    await ready();
    void player.play();
    await ready();
    const [glimpse, voice] = made.voices;
    expect([glimpse.isStopped, voice.isStopped, voice.fromSeconds]).toEqual([true, false, 2]);
  });
});

describe('the sound card', () => {
  const MINUTE_MS = 60_000;

  it('is let go a while after the last sound, but not while another player plays', async () => {
    const { player } = newPlayer();
    void player.play();
    await ready();
    await vi.advanceTimersByTimeAsync(MINUTE_MS);
    expect(isAwake).toBe(true);
    player.pause();
    const { player: other } = newPlayer();
    void other.play();
    await ready();
    player.scrub(0);
    await ready();
    await vi.advanceTimersByTimeAsync(MINUTE_MS);
    expect(isAwake).toBe(true);
    other.pause();
    await vi.advanceTimersByTimeAsync(1000);
    expect(isAwake).toBe(true);
    await vi.advanceTimersByTimeAsync(MINUTE_MS);
    expect(isAwake).toBe(false);
    other.scrub(CLOCK_HZ);
    await ready();
    expect(isAwake).toBe(true);
    await vi.advanceTimersByTimeAsync(MINUTE_MS);
    expect(isAwake).toBe(false);
  });

  it('still tells of what was heard before a rest when playing goes on, and nothing is skipped', async () => {
    const { player, at } = newPlayer();
    timestamp = { contextTime: heard, performanceTime: performance.now() + 1 };
    await vi.advanceTimersByTimeAsync(MINUTE_MS);
    void player.play();
    await ready();
    passSeconds(made.voices[0].startedAt! - heard + 0.5);
    expect(at()).toBeCloseTo(0.5, 6);
  });
});
