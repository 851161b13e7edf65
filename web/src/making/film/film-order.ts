import type { FilmSettings } from '@kite-trail/core/film/settings';
import type { FilmChapter } from '@kite-trail/core/formats/chapters/film-chapter';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Mastering } from '@kite-trail/core/sound/mastering';
import type { Cue } from '@kite-trail/core/trail/captions';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { ServedSound } from '../../playback/served-sound';
import type { MakingId } from '../makings';

/** All that a film is made from: it is of the edition it began with, whatever becomes of the lesson. */
export interface FilmOrder {
  id: MakingId;
  teacher: string;
  lesson: LessonId;
  of: string;
  /** The file's name. */
  name: string;
  title: string;
  /** A language tag (BCP 47), or nothing. */
  language: string;
  settings: FilmSettings;
  payload: Uint8Array<ArrayBuffer>;
  chapters: readonly FilmChapter[];
  cues: readonly Cue[];
  /** How it sounds; `null` where nobody speaks. */
  sound: KeptSound | null;
  orderedMs: number;
}

/** As much of a sound as outlives the window that ordered it: voices that are only on this device come along. */
export interface KeptSound extends Omit<ServedSound, 'masteringUnder'> {
  mastering: Mastering;
  /** Where what a codec adds to its peaks turns out to be too much. */
  quieter: Mastering;
}

interface Schema extends DBSchema {
  orders: { key: MakingId; value: FilmOrder };
}

const NAME = 'kite-trail-films';
let opened: Promise<IDBPDatabase<Schema>> | null = null;

const database = (): Promise<IDBPDatabase<Schema>> =>
  (opened ??= openDB<Schema>(NAME, 1, { upgrade: (db) => void db.createObjectStore('orders', { keyPath: 'id' }) }));

/** The films that are ordered on this device, so that they outlive the window. Where it keeps nothing, they do not. */
export const filmOrders = {
  keep: async (order: FilmOrder): Promise<void> => {
    await database()
      .then((db) => db.put('orders', order))
      .catch(() => {});
  },
  drop: async (id: MakingId): Promise<void> => {
    await database()
      .then((db) => db.delete('orders', id))
      .catch(() => {});
  },
  /** In the order in which they were ordered. */
  async all(): Promise<FilmOrder[]> {
    const all = await database()
      .then((db) => db.getAll('orders'))
      .catch(() => []);
    return all.sort((a, b) => a.orderedMs - b.orderedMs);
  },
};
