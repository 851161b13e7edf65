import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import { pngOf } from '../assets/images';
import { Shelf } from '../assets/shelf';
import type { LessonRow } from '../database/rows';
import { aboutOf } from './lessons';
import { sceneNow } from './trails';

/** What the page that stands for a lesson looks like now, its first where none was chosen: a PNG. */
export async function paintLesson(
  db: Knex,
  { lesson: id, widthPx }: { lesson: LessonId; widthPx: number },
): Promise<Uint8Array> {
  const lesson = (await db<LessonRow>('lessons').where({ id }).first())!;
  const { coverPage } = aboutOf(lesson);
  const { pages } = await sceneNow(db, lesson);
  const cover = pages.find(({ page }) => page.id === coverPage) ?? pages[0];
  return pngOf(db, cover, await Shelf.ofLesson(db, lesson), widthPx);
}
