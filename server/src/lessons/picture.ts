import type { LessonId, PageId } from '@kite-trail/core/lesson/ids';
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

/** What one of a lesson's pages looks like now: a PNG; its first where none is asked for, `null` where it has no such page. */
export async function paintPage(
  db: Knex,
  { lesson: id, page: wanted, widthPx }: { lesson: LessonId; page: PageId | null; widthPx: number },
): Promise<Uint8Array | null> {
  const lesson = (await db<LessonRow>('lessons').where({ id }).first())!;
  const { pages } = await sceneNow(db, lesson);
  const found = wanted === null ? pages[0] : pages.find(({ page }) => page.id === wanted);
  return found ? pngOf(db, found, await Shelf.ofLesson(db, lesson), widthPx) : null;
}

/** A page and what it looks like: a PNG. */
export interface PaintedPage {
  page: PageId;
  png: Uint8Array;
}

/** What all of a lesson's pages look like now, in their order. */
export async function paintPages(
  db: Knex,
  { lesson: id, widthPx }: { lesson: LessonId; widthPx: number },
): Promise<PaintedPage[]> {
  const lesson = (await db<LessonRow>('lessons').where({ id }).first())!;
  const shelf = await Shelf.ofLesson(db, lesson);
  const painted: PaintedPage[] = [];
  for (const state of (await sceneNow(db, lesson)).pages) {
    painted.push({ page: state.page.id, png: await pngOf(db, state, shelf, widthPx) });
  }
  return painted;
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
