import { defineStore } from 'pinia';
import { UNCHECKED_CEILING_DBTP, type ServedSound } from '../../playback/served-sound';
import { takeSoundUrl } from '../../server/api';
import { privateNames, removePrivate } from '../../workers/private-files';
import { useMakings, type MakingId, type Work } from '../makings';
import { discardFilm, FILMS_FOLDER, madeFilm, makeFilm } from './film-maker';
import { filmOrders, type FilmOrder } from './film-order';

const lockOf = (id: MakingId): string => `kite-trail-film-${id}`;

/** The films that are ordered: each belongs to the window that holds its lock, and goes on in the next one when that is gone. */
export const useFilmOrders = defineStore('film orders', () => {
  const makings = useMakings();
  /** What this window lets go of when a film is done with. */
  const held = new Map<MakingId, () => void>();
  /** Films of other windows, which are taken over when those are gone. */
  const waitedFor = new Set<MakingId>();
  let owner: string | null = null;

  /** Keeps an order on this device, and puts it into the queue. @param sound `null` where nobody speaks */
  async function order(asked: Omit<FilmOrder, 'sound'>, sound: ServedSound | null): Promise<void> {
    const kept = sound && {
      alike: sound.alike,
      programme: sound.programme,
      mastering: sound.masteringUnder(),
      quieter: sound.masteringUnder(UNCHECKED_CEILING_DBTP),
    };
    const made: FilmOrder = { ...asked, sound: kept };
    if (await hold(made.id)) await filmOrders.keep(made);
    makings.add(workOf(made, sound));
  }

  const workOf = (order: FilmOrder, sound: ServedSound | null): Work => ({
    ...order,
    isLong: true,
    make: (told) => makeFilm(order, sound, told),
    discard: async () => {
      await filmOrders.drop(order.id);
      await discardFilm(order.id);
      held.get(order.id)?.();
      held.delete(order.id);
    },
  });

  /** Takes over a teacher's films from windows that are gone: those that are made, and those that are not. */
  async function takeOver(teacher: string): Promise<void> {
    owner = teacher;
    const all = await filmOrders.all();
    const ours = all.filter((one) => one.teacher === teacher && !held.has(one.id));
    for (const one of ours) {
      if (!(await hold(one.id))) {
        waitFor(one.id);
        continue;
      }
      const file = await madeFilm(one);
      const work = workOf(one, soundOf(one));
      if (file) makings.addMade(work, file);
      else makings.add(work);
    }
    if (navigator.locks) await sweep(new Set(all.map(({ id }) => id)));
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

  /** Removes what is left of films that nobody has ordered. */
  async function sweep(ordered: ReadonlySet<MakingId>): Promise<void> {
    for (const name of await privateNames([FILMS_FOLDER])) {
      const id = name as MakingId;
      if (!ordered.has(id) && !held.has(id)) await removePrivate([FILMS_FOLDER, name]);
    }
  }

  /** Forgets all of whoever was signed in; it stays on this device for them. */
  function letGo(): void {
    owner = null;
    for (const { id } of [...makings.list]) if (held.has(id)) makings.setDown(id);
    held.forEach((free) => free());
    held.clear();
  }

  /** Without Web Locks, as on insecure addresses, nobody can tell which windows are there: then each keeps to its own. @returns whether it is this window's */
  function hold(id: MakingId): Promise<boolean> {
    const { locks } = globalThis.navigator ?? {};
    if (!locks) return Promise.resolve(false);
    return new Promise((resolve) => {
      const until = new Promise<void>((free) => held.set(id, free));
      void locks
        .request(lockOf(id), { ifAvailable: true }, async (lock) => {
          if (!lock) held.delete(id);
          resolve(lock !== null);
          if (lock) await until;
        })
        .catch(() => resolve(false));
    });
  }

  return { order, takeOver, letGo };
});

/** What is kept of a sound, with its voices where the school has them. */
function soundOf({ sound, takes }: FilmOrder): ServedSound | null {
  if (!sound) return null;
  const { alike, programme, mastering, quieter } = sound;
  const urls = new Map(takes.map((take) => [take, new URL(takeSoundUrl(take), location.href).href]));
  return { alike, programme, urls, masteringUnder: (ceilingDb) => (ceilingDb === undefined ? mastering : quieter) };
}
