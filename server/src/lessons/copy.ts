import type { Knex } from 'knex';
import type { LessonAssetRow, LessonRow } from '../database/rows';
import { makeLesson } from './lessons';
import { sceneNow } from './trails';

/** A new lesson that starts from another one's pages as they stand, without its recordings. */
export async function copyLesson(db: Knex, lesson: LessonRow): Promise<LessonRow> {
  const { pages } = await sceneNow(db, lesson);
  const about = { title: `${lesson.title} (copy)`.slice(0, 120), className: lesson.class_name };
  const copy = await makeLesson(db, lesson.teacher_id, about, pages);
  const files = await db<LessonAssetRow>('lesson_assets').where({ lesson_id: lesson.id });
  for (const file of files) await db('lesson_assets').insert({ ...file, lesson_id: copy.id });
  return copy;
}
