import type { TeacherName } from '@kite-trail/core/contract/account';
import type { Together } from '@kite-trail/core/contract/together';
import type { LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import { lendSheets } from '../assets/lesson-files';
import type { LessonColleagueRow, LessonRow, TeacherRow } from '../database/rows';
import { notFound } from '../http/problem';
import { colleaguesOf } from './worked-on';

/** Whose a lesson is, and who works on it with them. */
export async function togetherOn(db: Knex, lesson: LessonRow): Promise<Together> {
  const owner = (await db<TeacherRow>('teachers').where({ id: lesson.teacher_id }).first('id', 'name'))!;
  const colleagues: TeacherName[] = (await colleaguesOf(db, [lesson.id])).get(lesson.id) ?? [];
  return { owner: { id: owner.id, name: owner.name }, colleagues };
}

/**
 * Lets these colleagues, and nobody else, work on a lesson beside its owner.
 * @throws RequestProblem where a new one is nobody, is shut out, or is its owner; whoever is shut out later stays one
 */
export async function workWith(db: Knex, lesson: LessonRow, asked: readonly TeacherId[]): Promise<void> {
  const wanted = [...new Set(asked)];
  const before: TeacherId[] = await db<LessonColleagueRow>('lesson_colleagues')
    .where({ lesson_id: lesson.id })
    .pluck('teacher_id');
  const fresh = wanted.filter((id) => !before.includes(id));
  const found: TeacherId[] = await db<TeacherRow>('teachers')
    .whereIn('id', fresh)
    .whereNot({ id: lesson.teacher_id })
    .whereNull('shut_out_at')
    .forNoKeyUpdate()
    .pluck('id');
  if (found.length < fresh.length) throw notFound('teacher');
  for (const one of before.filter((id) => !wanted.includes(id))) await endWorking(db, lesson.id, one);
  const since = new Date().toISOString();
  for (const teacher_id of fresh)
    await db('lesson_colleagues').insert({ lesson_id: lesson.id, teacher_id, since } satisfies LessonColleagueRow);
}

/** Somebody works on a lesson no more: it leaves their classes and their favourites, and nothing of it is lost. */
export async function endWorking(db: Knex, lesson: LessonId, colleague: TeacherId): Promise<void> {
  await db('lesson_colleagues').where({ lesson_id: lesson, teacher_id: colleague }).delete();
  await leaveOrder(db, lesson, colleague);
}

/** A lesson leaves the order that is a teacher's alone: classes, their pages, favourites. */
export async function leaveOrder(db: Knex, lesson_id: LessonId, teacher_id: TeacherId): Promise<void> {
  const classes = () => db('classes').where({ teacher_id }).select('id');
  await db('class_lessons').where({ lesson_id }).whereIn('class_id', classes()).delete();
  await db('classes').where({ teacher_id, cover_lesson_id: lesson_id }).update({ cover_lesson_id: null });
  await db('links').where({ lesson_id }).whereIn('class_id', classes()).update({ class_id: null });
  await db('favourites').where({ lesson_id, teacher_id }).delete();
}

/** What a colleague makes of a lesson for themselves, such as a copy, has the pages of its PDFs as they were drawn. */
export const lendTo = (db: Knex, { id, teacher_id }: LessonRow, to: TeacherId): Promise<void> =>
  teacher_id === to ? Promise.resolve() : lendSheets(db, id, teacher_id, to);
