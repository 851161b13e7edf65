import type { WantedFilmPart } from '@kite-trail/core/contract/film';
import type { CaptionId, LessonId } from '@kite-trail/core/lesson/ids';
import { USUAL_FILM, type FilmSettings } from '@kite-trail/core/film/settings';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { EncodingFailed } from '../../workers/film/encoding-failed';
import { Gate } from '../../workers/gate';
import { Refused, Unreachable } from '../../server/call';
import { newMakingId } from '../makings';
import type { Encoder } from './can-encode';
import { makeFilm } from './film-maker';
import type { FilmOrder } from './film-order';

/** A device: how many encoders it has, which parts were made, what is on its disk, and what was joined. */
const device = vi.hoisted(() => ({
  encoders: 1,
  inUse: 0,
  made: [] as string[],
  kept: new Set<string>(),
  joined: [] as string[],
  /** Who has an encoder. */
  encoder: 'browser' as Encoder | null,
}));
const PARTS = 5;
/** What the school’s server was asked for, and how often it is away first. */
const school = vi.hoisted(() => ({
  asked: [] as WantedFilmPart[],
  isAwayFor: 0,
  isBroken: false,
  forgotten: [] as string[],
}));
vi.mock('./can-encode', () => ({ NO_ENCODER: 'There is no encoder.', encoderOf: async () => device.encoder }));
vi.mock('../../server/upload', () => ({ assetIdOf: async () => 'payload' }));
vi.mock('../../server/films', () => ({
  filmApi: {
    part: async (_lesson: LessonId, _payload: Blob, wanted: WantedFilmPart) => {
      if (school.isAwayFor-- > 0) throw new Unreachable();
      school.asked.push(wanted);
      if (school.isBroken) throw new Refused(500, 'server', 'The server could not do this. Try again.');
      return new Uint8Array();
    },
    forget: async (asset: string) => school.forgotten.push(asset),
  },
}));

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
      keep: async (path: string[]) => void device.made.push(path.at(-1)!),
      plan: async () => Array.from({ length: PARTS }, (_, n) => ({ frames: [n * 30], untilSeconds: n + 1 })),
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
const make = (film = order) =>
  makeFilm(film, null, { signal: new AbortController().signal, gate: new Gate(), onDone: () => {} });
const all = Array.from({ length: PARTS }, (_, n) => `part-${n}.mp4`);

beforeEach(() => {
  Object.assign(device, { encoders: 1, inUse: 0, made: [], joined: [], encoder: 'browser' });
  Object.assign(school, { asked: [], isAwayFor: 0, isBroken: false, forgotten: [] });
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

  it('is made by the school where this browser has no encoder, part by part, when the school can be reached', async () => {
    device.encoder = 'school';
    school.isAwayFor = 1;
    const cue = (n: number) => ({
      id: `caption-${n}` as CaptionId,
      startSamples: n * 48_000,
      endSamples: (n + 1) * 48_000 - 1,
      text: String(n),
    });
    const settings: FilmSettings = { ...USUAL_FILM, captions: 'drawn', hasTitleCard: true };
    await make({ ...order, settings, cues: [0, 1, 2, 3, 4].map(cue) });
    const parts = all.map((part) => part.replace('part', 'school'));
    expect(device.made).toEqual(['school-title.mp4', ...parts]);
    expect(device.joined).toEqual(device.made);
    expect(school.asked[0].shows).toEqual({ kind: 'title', title: 'Knots' });
    // Each part comes with the captions that are said in it, and no others.
    const said = school.asked
      .slice(1)
      .map(({ shows }) => shows.kind === 'frames' && shows.cues.map(({ text }) => text));
    expect(said.flat()).toEqual(expect.arrayContaining(['0', '1', '2', '3', '4']));
    expect(said.every((cues) => cues && cues.length <= 2)).toBe(true);
    expect(school.forgotten).toEqual(['payload']);
  });

  it('is told to fail where the school fails again and again', async () => {
    Object.assign(device, { encoder: 'school' });
    school.isBroken = true;
    await expect(make()).rejects.toThrow('The server could not do this. Try again.');
    expect(school.asked.length).toBeGreaterThan(2);
    expect(device.joined).toEqual([]);
  });

  it('is not begun where nobody has an encoder', async () => {
    device.encoder = null;
    await expect(make()).rejects.toThrow('There is no encoder.');
    expect(device.made).toEqual([]);
  });
});
