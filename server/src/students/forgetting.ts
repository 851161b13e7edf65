import type { ClassId, LessonId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import { dropLesson } from '../bin/bin';
import type { ClassRow, LessonRow, SchoolRow, StudentRow, TaskRow } from '../database/rows';
import { inTransaction } from '../database/transaction';

const DAY_MS = 24 * 3600 * 1000;
/** So long what students made is kept after their class has ended, where the school says nothing. */
export const KEPT_DAYS = 180;

/** Deletes a student for good, with all they made, handed in and got back. */
export async function dropStudent(db: Knex, { id }: Pick<StudentRow, 'id'>): Promise<void> {
  await dropLessons(db, await worksOf(db, { 'replies.student_id': id }));
  await db('students').where({ id }).delete();
}

/** Deletes a task for good, with all that was made of it. */
export async function dropTask(db: Knex, { id, sheet_id }: Pick<TaskRow, 'id' | 'sheet_id'>): Promise<void> {
  await dropLessons(db, await worksOf(db, { 'replies.task_id': id }));
  // The task goes with its sheet.
  await dropLessons(db, [sheet_id]);
}

/** Deletes all students and tasks of a class for good. */
export async function forgetStudents(db: Knex, class_id: ClassId): Promise<void> {
  for (const student of await db<StudentRow>('students').where({ class_id })) await dropStudent(db, student);
  for (const task of await db<TaskRow>('tasks').where({ class_id })) await dropTask(db, task);
}

/** What students worked on, and what they handed in of it. */
async function worksOf(db: Knex, which: Record<string, string>): Promise<LessonId[]> {
  const drafts: LessonId[] = await db('replies').where(which).pluck('lesson_id');
  const handedIn: LessonId[] = await db('hand_ins')
    .join('replies', 'replies.id', 'reply_id')
    .where(which)
    .pluck('hand_ins.lesson_id');
  return [...handedIn, ...drafts];
}

async function dropLessons(db: Knex, ids: readonly LessonId[]): Promise<void> {
  for (const id of ids) {
    const lesson = await db<LessonRow>('lessons').where({ id }).first('id', 'teacher_id');
    if (lesson) await dropLesson(db, lesson);
  }
}

/** So long what guests made is kept. */
const GUESTS_KEPT_DAYS = 30;

/** Forgets those who did a task as guests, some time after. @returns how many those were */
export async function forgetGuests(db: Knex, nowMs = Date.now()): Promise<number> {
  const before = new Date(nowMs - GUESTS_KEPT_DAYS * DAY_MS).toISOString();
  const guests = await db<StudentRow>('students').whereNotNull('guest_of').where('made_at', '<', before);
  for (const guest of guests) await inTransaction(db, (trx) => dropStudent(trx, guest));
  return guests.length;
}

/** How many days what students made is kept after their class has ended. */
export async function keptDays(db: Knex): Promise<number> {
  const school = await db<SchoolRow>('school').first();
  return school?.students_kept_days ?? KEPT_DAYS;
}

export const keepDays = (db: Knex, students_kept_days: number): Promise<unknown> =>
  db('school').insert({ id: 1, is_counting: true, students_kept_days }).onConflict('id').merge(['students_kept_days']);

/**
 * Forgets the students of classes that ended long enough ago.
 * @returns how many classes those were
 */
export async function forgetEndedClasses(db: Knex, nowMs = Date.now()): Promise<number> {
  const before = new Date(nowMs - (await keptDays(db)) * DAY_MS).toISOString();
  const ended = (at: Knex) =>
    at<ClassRow>('classes')
      .where('archived_at', '<', before)
      .where(
        (some) =>
          void some.whereIn('id', at('students').select('class_id')).orWhereIn('id', at('tasks').select('class_id')),
      );
  let forgotten = 0;
  for (const { id } of await ended(db).select('id')) {
    forgotten += await inTransaction(db, async (trx) => {
      const one = await ended(trx).where({ id }).forUpdate().first();
      if (one) await forgetStudents(trx, one.id);
      return one ? 1 : 0;
    });
  }
  return forgotten;
}
