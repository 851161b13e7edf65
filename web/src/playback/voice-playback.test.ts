import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { AS_RECORDED } from '@kite-trail/core/sound/mastering';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { FromMixer, ToMixer } from '../workers/sound/mix.worker';
import type { VoicePlayback as Playback } from './voice-playback';

/** A mixer that mixes when the test says so. */
const mixers = vi.hoisted(() => [] as FakeMixer[]);
class FakeMixer {
  onmessage: (event: { data: FromMixer }) => void = () => {};
  told: ToMixer[] = [];
  isTerminated = false;

  postMessage(message: ToMixer): void {
    this.told.push(message);
  }
  terminate(): void {
    this.isTerminated = true;
  }
  mixed(seconds: number | null): void {
    this.onmessage({ data: seconds === null ? null : new Float32Array(seconds * CLOCK_HZ) });
  }
}
vi.mock('../workers/sound/mix.worker?worker', () => ({
  default: class extends FakeMixer {
    constructor() {
      super();
      mixers.push(this);
    }
  },
}));

/** When each block was told to sound, and until when. */
let due: { from: number; to: number; isStopped: boolean }[];
const context = { currentTime: 10, destination: {} } as AudioContext;
const voices = { programme: [], urls: new Map(), mastering: AS_RECORDED };

let VoicePlayback: typeof Playback;
beforeEach(async () => {
  vi.useFakeTimers();
  vi.stubGlobal('window', globalThis);
  mixers.length = 0;
  due = [];
  vi.stubGlobal(
    'GainNode',
    class {
      connect(): void {}
      disconnect(): void {}
    },
  );
  vi.stubGlobal(
    'AudioBuffer',
    class {
      readonly duration: number;
      constructor({ length }: { length: number }) {
        this.duration = length / CLOCK_HZ;
      }
      copyToChannel(): void {}
    },
  );
  vi.stubGlobal(
    'AudioBufferSourceNode',
    class {
      private sounds = { from: 0, to: 0, isStopped: false };
      constructor(
        _: unknown,
        private readonly options: { buffer: AudioBuffer },
      ) {}
      connect(): void {}
      start(from: number): void {
        this.sounds = { from, to: from + this.options.buffer.duration, isStopped: false };
        due.push(this.sounds);
      }
      stop(): void {
        this.sounds.isStopped = true;
      }
    },
  );
  // No mixer is left over from another test.
  vi.resetModules();
  ({ VoicePlayback } = await import('./voice-playback'));
});

async function prepared(blockSeconds: number): Promise<Playback> {
  const playback = VoicePlayback.prepare(context, voices);
  const mixer = mixers.at(-1)!;
  expect(mixer.told.at(-1)).toBe('next');
  mixer.mixed(blockSeconds);
  return playback;
}

describe('a voice that is played', () => {
  it('sounds block after block, each where the last one ends', async () => {
    const playback = await prepared(1);
    playback.start(10.5);
    vi.advanceTimersByTime(0);
    mixers[0].mixed(2);
    vi.advanceTimersByTime(0);
    mixers[0].mixed(0.25);
    expect(due.map(({ from, to }) => [from, to])).toEqual([
      [10.5, 11.5],
      [11.5, 13.5],
      [13.5, 13.75],
    ]);
  });

  it('asks for no more than a few seconds ahead', async () => {
    const playback = await prepared(1);
    playback.start(10);
    const asked = () => mixers[0].told.filter((message) => message === 'next').length;
    for (let n = 1; n <= 4; n++) {
      vi.advanceTimersByTime(0);
      expect(asked()).toBe(n + 1);
      mixers[0].mixed(1);
    }
    vi.advanceTimersByTime(900);
    expect(asked()).toBe(5);
    vi.advanceTimersByTime(100);
    expect(asked()).toBe(6);
  });

  it('is silent at once when it is stopped, whatever still comes', async () => {
    const playback = await prepared(1);
    playback.start(10);
    vi.advanceTimersByTime(0);
    playback.stop();
    mixers[0].mixed(1);
    expect(due.map(({ isStopped }) => isStopped)).toEqual([true]);
  });
});

describe('a mixer', () => {
  it('that has mixed all there was is used again', async () => {
    const first = await prepared(0.1);
    first.start(10);
    vi.advanceTimersByTime(0);
    mixers[0].mixed(null);
    first.stop();
    const second = await prepared(0.1);
    second.start(20);
    expect(mixers).toHaveLength(1);
    expect(mixers[0].isTerminated).toBe(false);
    expect(due.map(({ from }) => from)).toEqual([10, 20]);
  });

  it('that is in the middle of a block is not: the block would be heard in what comes next', async () => {
    const first = await prepared(1);
    first.start(10);
    vi.advanceTimersByTime(0);
    first.stop();
    expect(mixers[0].isTerminated).toBe(true);
    await prepared(1);
    expect(mixers).toHaveLength(2);
  });

  it('is kept but once', async () => {
    const [first, second] = [await prepared(1), await prepared(1)];
    first.stop();
    second.stop();
    expect(mixers.map(({ isTerminated }) => isTerminated)).toEqual([false, true]);
  });
});
