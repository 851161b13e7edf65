import type { LessonId } from '@kite-trail/core/lesson/ids';
import { USUAL_FILM } from '@kite-trail/core/film/settings';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { EncodingFailed } from '../../workers/film/encoding-failed';
import { Gate } from '../../workers/gate';
import { newMakingId } from '../makings';
import { makeFilm } from './film-maker';
import type { FilmOrder } from './film-order';

/** A device: how many encoders it has, which parts were made, what is on its disk, and what was joined. */
const device = vi.hoisted(() => ({
  encoders: 1,
  inUse: 0,
  made: [] as string[],
  kept: new Set<string>(),
  joined: [] as string[],
}));
const PARTS = 5;

vi.mock('../../workers/film/film-part.worker?worker', () => ({ default: class {} }));
vi.mock('../../workers/film/film-join.worker?worker', () => ({ default: class {} }));
vi.mock('../../playback/served-sound', () => ({}));
vi.mock('../../workers/private-files', () => ({
  privateFile: async () => new File([], 'film.mp4'),
  wholePrivateFile: async (path: string[]) => (device.kept.has(path.join('/')) ? new File([], '') : null),
  removePrivate: async () => {},
}));
vi.mock('../../workers/with-worker', () => ({
  withWorker: async (_: unknown, use: (remote: unknown) => Promise<unknown>) => {
    // A painter holds an encoder from its first part to its end, where the device has one left.
    let holds = false;
    const painter = {
      begin: async () => {},
      plan: async () => Array.from({ length: PARTS }, (_, n) => ({ frames: [n], untilSeconds: n + 1 })),
      cover: async () => new Uint8Array(),
      make: async (_part: unknown, path: string[]) => {
        await new Promise((resolve) => setTimeout(resolve));
        if (!holds && device.inUse === device.encoders) throw new EncodingFailed(null);
        if (!holds) device.inUse++;
        holds = true;
        device.made.push(path.at(-1)!);
      },
      join: async ({ parts }: { parts: { path: string[] }[] }) => {
        device.joined = parts.map(({ path }) => path.at(-1)!);
      },
    };
    try {
      return await use(painter);
    } finally {
      if (holds) device.inUse--;
    }
  },
}));

const order: FilmOrder = {
  ...{
    id: newMakingId(),
    teacher: 'anna',
    lesson: 'lesson' as LessonId,
    of: 'film',
    name: 'Knots.mp4',
    title: 'Knots',
  },
  ...{
    language: 'en',
    settings: USUAL_FILM,
    payload: new Uint8Array(),
    chapters: [],
    cues: [],
    sound: null,
    orderedMs: 0,
  },
};
const make = () => makeFilm(order, null, { signal: new AbortController().signal, gate: new Gate(), onDone: () => {} });
const all = Array.from({ length: PARTS }, (_, n) => `part-${n}.mp4`);

beforeEach(() => {
  Object.assign(device, { encoders: 1, inUse: 0, made: [], joined: [] });
  device.kept.clear();
  vi.stubGlobal('navigator', { hardwareConcurrency: 4 });
});

describe('a film', () => {
  it.each([4, 2, 1])('has every part once, in order, on a device that has %i encoders', async (encoders) => {
    device.encoders = encoders;
    await make();
    expect(device.made.toSorted()).toEqual(all);
    expect(device.joined).toEqual(all);
  });

  it('is not made where the device has no encoder, and says so', async () => {
    device.encoders = 0;
    await expect(make()).rejects.toThrow(/encoder/);
    expect(device.joined).toEqual([]);
  });

  it('makes no part again that is there', async () => {
    device.kept.add(`films/${order.id}/part-2.mp4`);
    await make();
    expect(device.made.toSorted()).toEqual(all.filter((part) => part !== 'part-2.mp4'));
    expect(device.joined).toEqual(all);
  });
});
