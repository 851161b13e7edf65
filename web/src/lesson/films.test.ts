import { sceneOf } from '@kite-trail/core/lesson/scene';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import type { PageId } from '@kite-trail/core/lesson/ids';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { madeLesson } from '../testing/made-lesson';
import { useFilms } from './films';
import { LessonScope, useOtherwise } from './lesson-scope';
import { useLesson } from './lesson';

/** Videos that are being made: the test says how each ends. */
interface Making {
  onProgress: (done: number) => void;
  cancelled: boolean;
  settle: (file: Blob) => void;
  fail: (error: Error) => void;
}
const { made, can } = vi.hoisted(() => ({ made: [] as Making[], can: { make: true } }));
vi.mock('../playback/programme-video', () => ({
  canMakeVideos: () => can.make,
  ProgrammeVideo: class {
    onProgress = () => {};
    cancelled = false;
    settle!: (file: Blob) => void;
    fail!: (error: Error) => void;
    file = new Promise<Blob>((resolve, reject) => Object.assign(this, { settle: resolve, fail: reject }));
    constructor() {
      made.push(this);
    }
    cancel() {
      this.cancelled = true;
      this.fail(new DOMException('', 'AbortError'));
    }
  },
}));
vi.mock('../playback/served-sound', () => ({ servedMastering: async () => ({}) }));
vi.mock('./voices', () => ({ useVoices: () => ({ served: async () => ({ urls: {} }) }) }));

const PAGE = 'page-one-of-us' as PageId;
const filmed = {
  name: 'Knots: “bowline” / 2',
  base: sceneOf([{ page: wideSquaredPage(PAGE), pieces: [] }]),
  trail: { lengthSamples: 48_000, marks: [] },
  programme: [],
};
let scope: LessonScope;

beforeEach(async () => {
  made.length = 0;
  can.make = true;
  vi.stubGlobal('URL', { createObjectURL: () => 'blob:film' });
  useOtherwise((scope = new LessonScope()));
  await useLesson().accept(madeLesson([PAGE], {}));
});

const begin = async () => {
  const film = useFilms().of('all');
  const making = film.make(filmed);
  await vi.waitFor(() => expect(made.length).toBeGreaterThan(0));
  return { film, making, video: made.at(-1)! };
};

describe('a film', () => {
  it('tells how far it is, and is there under a name that any system takes', async () => {
    const { film, making, video } = await begin();
    video.onProgress(0.4);
    expect(film.progress.value).toBe(0.4);
    video.settle(new Blob(['mp4']));
    await making;
    expect(film.film.value).toEqual({ url: 'blob:film', name: 'Knots bowline  2.mp4' });
    expect(film.progress.value).toBeNull();
  });

  it('is the same one when its panel is opened again, and there whether or not somebody looks on', async () => {
    const { film, making, video } = await begin();
    expect(useFilms().of('all')).toBe(film);
    video.settle(new Blob());
    await making;
    expect(useFilms().of('all').film.value).not.toBeNull();
    expect(useFilms().of('set-aside').film.value).toBeNull();
  });

  it('that is given up tells no problem, and does not come after a newer one', async () => {
    const { film, making, video } = await begin();
    film.cancel();
    expect([video.cancelled, film.progress.value]).toEqual([true, null]);
    await making;
    expect(film.problem.value).toBe('');
    const again = film.make(filmed);
    await vi.waitFor(() => expect(made).toHaveLength(2));
    made[1].settle(new Blob());
    await again;
    expect(film.film.value).not.toBeNull();
  });

  it('that fails says why, and can be made again', async () => {
    const { film, making, video } = await begin();
    video.fail(new Error('the disk is full'));
    await making;
    expect(film.problem.value).toBe('The video was not made: the disk is full');
    expect(film.progress.value).toBeNull();
  });

  it('is given up when its lesson is left', async () => {
    const { making, video } = await begin();
    scope.end();
    await making;
    expect(video.cancelled).toBe(true);
  });

  it('is not begun where the browser cannot make one', async () => {
    can.make = false;
    const film = useFilms().of('all');
    await film.make(filmed);
    expect(film.problem.value).toMatch(/cannot make videos/);
    expect(made).toEqual([]);
  });
});
