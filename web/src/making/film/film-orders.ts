import { containerOf, type FilmCodec } from '@kite-trail/core/film/settings';
import { defineStore } from 'pinia';
import type { ServedSound } from '../../playback/served-sound';
import { privateNames, removePrivate } from '../../workers/private-files';
import { newMakingId, useMakings, type MakingId, type Work } from '../makings';
import { encoderOf } from './can-encode';
import { discardFilm, keptFilms, madeFilm } from './film-files';
import { filmOrders, type FilmOrder } from './film-order';

/** What is tried in the place of a codec, in this order. */
const OTHERS: Record<FilmCodec, readonly FilmCodec[]> = {
  avc: ['av1', 'vp9'],
  av1: ['avc', 'vp9'],
  vp9: ['avc', 'av1'],
};

const lockOf = (id: MakingId): string => `kite-trail-film-${id}`;

/** The films that are ordered: each belongs to the window that holds its lock, and goes on in the next one when that is gone. */
export const useFilmOrders = defineStore('film orders', () => {
  const makings = useMakings();
  /** What this window lets go of when a film is done with. */
  const held = new Map<MakingId, () => void>();
  /** Films of other windows, which are taken over when those are gone. */
  const waitedFor = new Set<MakingId>();
  let owner: string | null = null;
  let takingOver = Promise.resolve();

  /** Keeps an order on this device, and puts it into the queue. @param sound how it sounds, to the point: an order knows it only about */
  async function order(made: FilmOrder, sound: ServedSound | null): Promise<void> {
    if (await hold(made.id)) await filmOrders.keep(made);
    makings.add(workOf(made, sound));
  }

  const workOf = (order: FilmOrder, sound: ServedSound | null): Work => ({
    ...order,
    isLong: true,
    // What makes films is needed only when one is made.
    make: async (told) => (await import('./film-maker')).makeFilm(order, sound, told),
    instead: {
      offer: order.settings.codec === 'avc' ? 'Make a WebM instead' : 'Make an MP4 instead',
      order: () => orderOther(order, sound),
    },
    discard: async () => {
      await filmOrders.drop(order.id);
      await discardFilm(order.id);
      held.get(order.id)?.();
      held.delete(order.id);
    },
  });

  /** Orders the same film in another codec: one that there is an encoder for. @throws Error where there is none */
  async function orderOther(one: FilmOrder, sound: ServedSound | null): Promise<void> {
    for (const codec of OTHERS[one.settings.codec]) {
      const settings = { ...one.settings, codec };
      if (!(await encoderOf(settings))) continue;
      const name = one.name.replace(/\.[^.]*$/, `.${containerOf(codec)}`);
      return order({ ...one, id: newMakingId(), name, settings, orderedMs: Date.now() }, sound);
    }
    throw new Error('There is no other encoder for videos here. Links work in all browsers.');
  }

  /** Takes over a teacher's films from windows that are gone: those that are made, and those that are not. */
  function takeOver(teacher: string): Promise<void> {
    owner = teacher;
    // One after the other: two at once would take each other's locks for another window's.
    return (takingOver = takingOver.then(() => takeOverNow(teacher)));
  }

  async function takeOverNow(teacher: string): Promise<void> {
    for (const order of await filmOrders.all()) {
      if (order.teacher !== teacher || owner !== teacher || held.has(order.id)) continue;
      if (!(await hold(order.id))) {
        waitFor(order.id);
        continue;
      }
      const file = await madeFilm(order);
      const work = workOf(order, soundOf(order));
      if (file) makings.addMade(work, file);
      else makings.add(work);
    }
    await sweep();
  }

  function waitFor(id: MakingId): void {
    if (waitedFor.has(id) || !navigator.locks) return;
    waitedFor.add(id);
    void navigator.locks
      .request(lockOf(id), () => {})
      .then(() => {
        waitedFor.delete(id);
        if (owner) void takeOver(owner);
      });
  }

  /** Removes what is left of films that nobody has ordered, and no window is about to. */
  async function sweep(): Promise<void> {
    for (const film of await keptFilms()) {
      await navigator.locks?.request(lockOf(film), { ifAvailable: true }, async (lock) => {
        const isOrdered = (await filmOrders.all()).some(({ id }) => id === film);
        if (lock && !isOrdered) await discardFilm(film);
      });
    }
    // Earlier versions of this program left theirs here.
    for (const name of await privateNames([])) if (name.startsWith('export-')) await removePrivate([name]);
  }

  /** Nobody else sees what was made for whoever was signed in: their films stay on this device for them, all else goes. */
  function letGo(): void {
    owner = null;
    leave();
    for (const { id } of [...makings.list]) void makings.remove(id);
  }

  /** The window goes: its films stay ordered, for whichever window comes next. */
  function leave(): void {
    for (const { id } of [...makings.list]) if (held.has(id)) makings.setDown(id);
    held.forEach((free) => free());
    held.clear();
  }

  /** Without Web Locks, as on insecure addresses, nobody can tell which windows are there: then each keeps to its own. @returns whether it is this window's */
  function hold(id: MakingId): Promise<boolean> {
    const { locks } = globalThis.navigator ?? {};
    if (!locks) return Promise.resolve(false);
    return new Promise((resolve) => {
      void locks
        .request(lockOf(id), { ifAvailable: true }, async (lock) => {
          if (!lock) return resolve(false);
          const until = new Promise<void>((free) => held.set(id, free));
          resolve(true);
          await until;
        })
        .catch(() => resolve(false));
    });
  }

  return { order, takeOver, leave, letGo };
});

/** What is kept of a sound. */
function soundOf({ sound }: FilmOrder): ServedSound | null {
  if (!sound) return null;
  const { mastering, quieter, ...same } = sound;
  return { ...same, masteringUnder: (ceilingDb) => (ceilingDb === undefined ? mastering : quieter) };
}
