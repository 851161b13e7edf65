import 'fake-indexeddb/auto';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { USUAL_FILM, type FilmSettings } from '@kite-trail/core/film/settings';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { EncodingFailed } from '../../workers/film/encoding-failed';
import { newMakingId, useMakings } from '../makings';
import { filmOrders, type FilmOrder } from './film-order';
import { useFilmOrders } from './film-orders';

/** What is kept of films on this device, and which have been made. */
const { kept, made, making, failing, able } = vi.hoisted(() => ({
  /** Codecs whose encoder gives up, and those there are others of. */
  failing: new Set<string>(),
  able: new Set<string>(),
  kept: new Set<string>(),
  made: new Set<string>(),
  making: [] as string[],
}));
vi.mock('./film-maker', () => ({
  makeFilm: ({ id, settings }: FilmOrder) => {
    if (failing.has(settings.codec)) return Promise.reject(new EncodingFailed(null));
    making.push(id);
    kept.add(id);
    return new Promise(() => {});
  },
}));
vi.mock('./can-encode', () => ({
  encoderOf: async ({ codec }: FilmSettings) => (able.has(codec) ? 'browser' : null),
}));
vi.mock('./film-files', () => ({
  madeFilm: async ({ id }: FilmOrder) => (made.has(id) ? new Blob() : null),
  discardFilm: async (id: string) => void kept.delete(id),
  keptFilms: async () => [...kept],
}));
vi.mock('../../workers/private-files', () => ({ privateNames: async () => [] }));

/** Web Locks of one browser, for several windows. */
class Locks {
  private readonly holders = new Map<string, Promise<unknown>>();
  async request(name: string, ...rest: [unknown, unknown] | [unknown]): Promise<unknown> {
    const isAvailable = rest.length === 2;
    const use = rest[rest.length - 1] as (lock: object | null) => unknown;
    if (isAvailable && this.holders.has(name)) return use(null);
    while (this.holders.has(name)) await this.holders.get(name);
    const using = Promise.resolve(use({}));
    this.holders.set(name, using);
    return using.finally(() => this.holders.delete(name));
  }
}

const order = (teacher: string): FilmOrder => ({
  id: newMakingId(),
  teacher,
  lesson: 'lesson' as LessonId,
  of: 'film',
  name: 'Knots.mp4',
  title: 'Knots',
  language: 'en',
  settings: USUAL_FILM,
  payload: new Uint8Array(),
  chapters: [],
  cues: [],
  sound: null,
  orderedMs: Date.now(),
});

/** A window of the browser, with stores of its own. */
function openWindow() {
  setActivePinia(createPinia());
  return { films: useFilmOrders(), makings: useMakings() };
}
const settled = () => new Promise((resolve) => setTimeout(resolve, 20));

beforeEach(async () => {
  kept.clear();
  made.clear();
  making.length = 0;
  failing.clear();
  able.clear();
  for (const { id } of await filmOrders.all()) await filmOrders.drop(id);
  vi.stubGlobal('navigator', { locks: new Locks() });
  vi.stubGlobal('location', { href: 'https://school.example/' });
  vi.stubGlobal('URL', Object.assign(URL, { createObjectURL: () => 'blob:film', revokeObjectURL: () => {} }));
});

describe('films that are ordered', () => {
  it('can be made in another codec where an encoder gives up: one that this device has', async () => {
    failing.add('avc');
    able.add('vp9');
    const { films, makings } = openWindow();
    await films.order(order('anna'), null);
    await vi.waitFor(() => expect(makings.list[0].instead).toBe('Make a WebM instead'));
    await makings.makeInstead(makings.list[0].id);
    expect(makings.list.map(({ name }) => name)).toEqual(['Knots.webm']);
    expect((await filmOrders.all()).map(({ settings }) => settings.codec)).toEqual(['vp9']);
    able.clear();
    await films.order(order('anna'), null);
    await makings.remove(makings.list[0].id);
    await vi.waitFor(() => expect(makings.list[0].instead).not.toBe(''));
    await expect(makings.makeInstead(makings.list[0].id)).rejects.toThrow(/no other encoder/);
    expect(makings.list).toHaveLength(1);
  });

  it('are kept, and go on in another window when theirs is gone, not before', async () => {
    const first = openWindow();
    const asked = order('anna');
    await first.films.order(asked, null);
    await vi.waitFor(() => expect(making).toEqual([asked.id]));
    const second = openWindow();
    await second.films.takeOver('anna');
    await settled();
    expect([second.makings.list.length, kept.has(asked.id)]).toEqual([0, true]);
    first.films.letGo();
    await settled();
    expect(second.makings.list.map(({ id }) => id)).toEqual([asked.id]);
    await vi.waitFor(() => expect(making).toEqual([asked.id, asked.id]));
  });

  it('are there to be saved where they were made before', async () => {
    const asked = order('anna');
    await filmOrders.keep(asked);
    made.add(asked.id);
    const { films, makings } = openWindow();
    // Twice at once, as when a window goes while somebody signs in.
    await Promise.all([films.takeOver('anna'), films.takeOver('anna')]);
    expect(makings.list.map(({ state }) => state)).toEqual(['made']);
    await makings.remove(asked.id);
    expect(await filmOrders.all()).toEqual([]);
  });

  it('are seen by nobody else who signs in, and by their teacher again', async () => {
    const { films, makings } = openWindow();
    await films.order(order('anna'), null);
    films.letGo();
    expect(makings.list).toEqual([]);
    await films.takeOver('ben');
    expect(makings.list).toEqual([]);
    films.letGo();
    await settled();
    await films.takeOver('anna');
    expect(makings.list).toHaveLength(1);
  });

  it('leave nothing when they are given up; what nobody ordered is swept away, and another window’s stays', async () => {
    const other = openWindow();
    const theirs = order('anna');
    await other.films.order(theirs, null);
    await vi.waitFor(() => expect(kept).toContain(theirs.id));
    kept.add('left-over');
    const { films } = openWindow();
    await films.takeOver('anna');
    expect([...kept]).toEqual([theirs.id]);
    await other.makings.remove(theirs.id);
    expect([...kept]).toEqual([]);
  });

  it('are made where windows cannot tell one another apart, too, and not kept', async () => {
    vi.stubGlobal('navigator', {});
    const { films, makings } = openWindow();
    await films.order(order('anna'), null);
    expect([makings.list.length, await filmOrders.all()]).toEqual([1, []]);
  });
});
