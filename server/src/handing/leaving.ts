import type { LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { TeacherRow } from '../database/rows';
import { handOver } from './hand-over';

/** Hands what a teacher works on with colleagues over to the one who has done so longest: somebody goes on with it. */
export async function leaveToColleagues(db: Knex, teacher: TeacherRow): Promise<void> {
  const working: { lesson_id: LessonId; teacher_id: TeacherId }[] = await db('lesson_colleagues')
    .join('lessons', 'lessons.id', 'lesson_colleagues.lesson_id')
    .join('teachers', 'teachers.id', 'lesson_colleagues.teacher_id')
    .where('lessons.teacher_id', teacher.id)
    // What belongs to a task goes with its class.
    .whereNull('lessons.aside')
    .whereNull('teachers.shut_out_at')
    .orderBy('since', 'desc')
    .select('lesson_colleagues.lesson_id', 'lesson_colleagues.teacher_id');
  // Of each lesson, the last to be put there is the first who came.
  const heirs = new Map(working.map(({ lesson_id, teacher_id }) => [lesson_id, teacher_id]));
  for (const [lesson, to] of heirs) await handOver(db, teacher, [lesson], to);
}
