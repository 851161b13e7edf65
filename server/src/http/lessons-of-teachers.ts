import { lessonId } from '@kite-trail/core/contract/primitives';
import type { Knex } from 'knex';
import type { LessonRow, TeacherRow } from '../database/rows';
import { workedOnBy } from '../together/worked-on';
import { held, type Purpose } from './callers';
import { notFound } from './problem';

/** The lesson a request names, of those a teacher works on. @throws RequestProblem where it is none of them */
export async function lessonFor(db: Knex, teacher: TeacherRow, param: unknown, purpose: Purpose): Promise<LessonRow> {
  const id = lessonId.safeParse(param);
  const found = id.success
    ? await held(workedOnBy(db<LessonRow>('lessons').where({ id: id.data }), teacher.id), purpose).first()
    : undefined;
  if (!found) throw notFound('lesson');
  return found;
}
