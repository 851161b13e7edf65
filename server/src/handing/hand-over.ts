import type { TeacherName } from '@kite-trail/core/contract/account';
import type { AssetId, LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import { lendSheets } from '../assets/lesson-files';
import { dropUnnamed } from '../assets/ownership';
import { forgetSheets } from '../bin/bin';
import type { LessonAssetRow, TeacherRow } from '../database/rows';
import { notFound } from '../http/problem';
import { ownLessons } from '../lessons/lessons';
import { leaveOrder } from '../together/together';

/** The other teachers of the school, by name, but for those who are shut out. */
export async function listOthers(db: Knex, { id }: TeacherRow): Promise<TeacherName[]> {
  return db<TeacherRow>('teachers')
    .whereNot({ id })
    .whereNull('shut_out_at')
    .orderBy(['name', 'id'])
    .select('id', 'name');
}

/**
 * Makes lessons another teacher's, with all that was recorded, their links and what students asked. What is the giver's alone stays
 * behind: classes, and which are favourites.
 * @throws RequestProblem where a lesson is not theirs, or nobody else is called so
 */
export async function handOver(
  db: Knex,
  giver: TeacherRow,
  asked: readonly LessonId[],
  to: TeacherId,
): Promise<LessonId[]> {
  const others = db<TeacherRow>('teachers').where({ id: to }).whereNot({ id: giver.id }).whereNull('shut_out_at');
  if (!(await others.forNoKeyUpdate().first('id'))) throw notFound('teacher');
  const lessons = await ownLessons(db, giver.id, asked);
  for (const id of lessons) {
    await leaveOrder(db, id, giver.id);
    // Whoever worked on it already goes on, in their classes too.
    await db('lesson_colleagues').where({ lesson_id: id, teacher_id: to }).delete();
    await lendSheets(db, id, giver.id, to);
    await db('lessons').where({ id }).update({ teacher_id: to });
    const pdfs: AssetId[] = await db<LessonAssetRow>('lesson_assets').where({ lesson_id: id }).pluck('asset_id');
    await dropUnnamed(db, await forgetSheets(db, giver.id, pdfs));
  }
  return lessons;
}
