import { titleOf } from '@kite-trail/core/contract/lesson';
import type { LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import { isDeepStrictEqual } from 'node:util';
import type { Knex } from 'knex';
import { addToClasses, classesWith } from '../classes/classes';
import { lendTo } from '../together/together';
import type { LessonAssetRow, LessonRow } from '../database/rows';
import { stateOf, type LessonState } from './changes';
import { lessonOf, makeLesson, writtenPage, type WrittenPage } from './lessons';
import { sceneNow } from './trails';

export const copiedTitle = ({ title }: LessonRow) => titleOf(title, ' (copy)');

/** A lesson's pages as they stand: after all that was recorded, and what was changed since. */
export interface StandingPages {
  /** In which state of the lesson they are so. */
  of: LessonState;
  pages: WrittenPage[];
}

export async function gatherPages(db: Knex, { lesson: id }: { lesson: LessonId }): Promise<StandingPages> {
  const lesson = await lessonOf(db, id);
  return { of: stateOf(lesson), pages: (await sceneNow(db, lesson)).pages.map(writtenPage) };
}

/**
 * A new lesson of a teacher's that starts from another one's pages as they stand, without its recordings.
 * @param found how they stood a moment ago
 */
export async function copyLesson(
  db: Knex,
  teacher: TeacherId,
  lesson: LessonRow,
  found: StandingPages,
): Promise<LessonRow> {
  const isNow = isDeepStrictEqual(found.of, stateOf(lesson));
  const { pages } = isNow ? found : await gatherPages(db, { lesson: lesson.id });
  const copy = await makeLesson(db, teacher, copiedTitle(lesson), pages);
  await addToClasses(db, copy, await classesWith(db, teacher, lesson.id));
  await copyFiles(db, lesson, copy);
  await lendTo(db, lesson, teacher);
  return copy;
}

/** The copy has all files that the lesson has. */
export async function copyFiles(db: Knex, lesson: LessonRow, copy: LessonRow): Promise<void> {
  const files = await db<LessonAssetRow>('lesson_assets').where({ lesson_id: lesson.id });
  for (const file of files) await db('lesson_assets').insert({ ...file, lesson_id: copy.id });
}
