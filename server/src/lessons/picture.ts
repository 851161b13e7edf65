import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { PageState } from '@kite-trail/core/lesson/scene';
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
  return paintCover(db, lesson, (await sceneNow(db, lesson)).pages, widthPx);
}

/** The page that stands for a lesson, of its pages at some moment. */
export async function paintCover(
  db: Knex,
  lesson: LessonRow,
  pages: readonly PageState[],
  widthPx: number,
): Promise<Uint8Array> {
  const { coverPage } = aboutOf(lesson);
  const cover = pages.find(({ page }) => page.id === coverPage) ?? pages[0];
  return pngOf(db, cover, await Shelf.ofLesson(db, lesson), widthPx);
}
