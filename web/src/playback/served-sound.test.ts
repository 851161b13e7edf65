import { AS_RECORDED, type Mastering } from '@kite-trail/core/sound/mastering';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Told } from '../workers/told';
import { soundFileOf, wavFileOf, type ServedSound } from './served-sound';

/** What stands for the worker: how loud what it makes turns out to be, in turn, and what it was asked for. */
const { kept, peaks, ceilings, keptAt, begun } = vi.hoisted(() => ({
  kept: new Map<string, Blob>(),
  peaks: [] as (number | null)[],
  ceilings: [] as (number | null)[],
  keptAt: [] as number[],
  begun: [] as { finish: () => void }[],
}));
vi.mock('../workers/sound/sound.worker?worker', () => ({ default: class {} }));
vi.mock('comlink', () => ({ proxy: <T>(one: T) => one }));
vi.mock('../workers/private-files', () => ({
  wholePrivateFile: async (path: string[]) => kept.get(path.join('/')) ?? null,
  privateFile: async () => null,
  privateNames: async () => [],
  removePrivate: async () => {},
}));
vi.mock('../workers/with-worker', () => ({
  withWorker: async (_: unknown, use: (remote: unknown) => Promise<unknown>, { signal }: Told) => {
    const remote = {
      peakOf: async () => -9,
      make: async ({ mastering }: { mastering: Mastering }) => {
        ceilings.push(mastering.ceilingDb);
        await new Promise<void>((finish) => begun.push({ finish }));
        return { file: new Blob([`sound ${ceilings.length}`]), peakDb: peaks.shift() ?? null };
      },
      keep: async (path: string[]) => {
        keptAt.push(ceilings.length);
        kept.set(path.join('/'), new Blob([`sound ${ceilings.length}`]));
      },
      write: async (_task: unknown, path: string[]) => new Blob([path.join('/')]),
    };
    const givenUp = new Promise((_, reject) => signal?.addEventListener('abort', () => reject(signal.reason)));
    return Promise.race([use(remote), givenUp]);
  },
}));

const sound = (alike: string): ServedSound => ({
  alike,
  programme: [],
  voices: new Map(),
  masteringUnder: (ceilingDb = -3.5) => ({ ...AS_RECORDED, ceilingDb }),
});
const turn = () => new Promise((resolve) => setTimeout(resolve, 5));
const finishNext = async () => {
  await vi.waitFor(() => expect(begun.length).toBeGreaterThan(0));
  begun.shift()!.finish();
};

beforeEach(() => {
  kept.clear();
  for (const list of [peaks, ceilings, keptAt, begun]) list.length = 0;
});

describe('the sound of a link or a film', () => {
  it('is made anew, quieter, until no peak is too high, and nothing is kept before', async () => {
    peaks.push(0.5, -1.5);
    const making = soundFileOf(sound('loud'), 'aac', {});
    await finishNext();
    await turn();
    expect(kept.size).toBe(0);
    await finishNext();
    expect(await (await making).text()).toBe('sound 2');
    expect([ceilings[0], ceilings[1]! < -3.5 - 1.5, keptAt]).toEqual([-3.5, true, [2]]);
  });

  it('is made once for all who want it, and taken from this device afterwards', async () => {
    peaks.push(-2);
    const both = [soundFileOf(sound('one'), 'aac', {}), soundFileOf(sound('one'), 'aac', {})];
    await finishNext();
    for (const file of await Promise.all(both)) expect(await file.text()).toBe('sound 1');
    const again = await soundFileOf(sound('one'), 'aac', {});
    expect([await again.text(), again.type, ceilings.length]).toEqual(['sound 1', 'audio/mp4', 1]);
  });

  it('goes on for whoever still wants it when the first gives it up', async () => {
    const abort = new AbortController();
    const first = soundFileOf(sound('given up'), 'opus', { signal: abort.signal });
    await vi.waitFor(() => expect(begun).toHaveLength(1));
    const second = soundFileOf(sound('given up'), 'opus', {});
    await turn();
    abort.abort(new DOMException('It was given up.', 'AbortError'));
    await expect(first).rejects.toThrow('It was given up.');
    expect(begun).toHaveLength(1);
    begun[0].finish();
    expect(await (await second).text()).toBe('sound 1');
  });

  it('is given up with the last who wanted it, and made anew for whoever wants it then', async () => {
    const aborts = [new AbortController(), new AbortController()];
    const both = aborts.map(({ signal }) => soundFileOf(sound('given up by all'), 'opus', { signal }));
    await vi.waitFor(() => expect(begun).toHaveLength(1));
    for (const abort of aborts) abort.abort(new DOMException('It was given up.', 'AbortError'));
    for (const one of both) await expect(one).rejects.toThrow('It was given up.');
    const later = soundFileOf(sound('given up by all'), 'opus', {});
    await vi.waitFor(() => expect(begun).toHaveLength(2));
    begun[1].finish();
    expect(await (await later).text()).toBe('sound 2');
  });

  it('is another where another is asked for', async () => {
    const others = [
      soundFileOf(sound('a'), 'aac', {}),
      soundFileOf(sound('b'), 'aac', {}),
      soundFileOf(sound('a'), 'opus', {}),
    ];
    await vi.waitFor(() => expect(begun).toHaveLength(3));
    for (const { finish } of begun) finish();
    await Promise.all(others);
    expect(kept.size).toBe(3);
  });

  it('as it is, a WAV, is written where it was asked for', async () => {
    expect(await (await wavFileOf(sound('wav'), ['sounds', 'one.wav'], {})).text()).toBe('sounds/one.wav');
  });
});
