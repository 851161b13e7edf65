import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import { pngOf } from '../assets/images';
import { Shelf } from '../assets/shelf';
import type { LessonRow } from '../database/rows';
import { sceneNow } from './trails';

/** What a lesson's first page looks like now: a PNG. */
export async function paintLesson(
  db: Knex,
  { lesson: id, widthPx }: { lesson: LessonId; widthPx: number },
): Promise<Uint8Array> {
  const lesson = (await db<LessonRow>('lessons').where({ id }).first())!;
  const [first] = (await sceneNow(db, lesson)).pages;
  return pngOf(db, first, await Shelf.ofLesson(db, lesson), widthPx);
}
