import type { TeacherName } from '@kite-trail/core/contract/account';
import type { LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';

/**
 * Of lessons, those a teacher may work on: their own, those that colleagues let them work on, and what was handed in to them; not
 * what their students still work on.
 */
export const workedOnBy = <Query extends Knex.QueryBuilder>(lessons: Query, teacher: TeacherId): Query =>
  lessons.where(
    (all) =>
      void all
        .where(
          (own) =>
            void own
              .where('lessons.teacher_id', teacher)
              .where((some) => void some.whereNull('lessons.aside').orWhere('lessons.aside', 'task')),
        )
        .orWhereIn('lessons.id', (shared) =>
          shared.from('lesson_colleagues').where('lesson_colleagues.teacher_id', teacher).select('lesson_id'),
        ),
  ) as Query;

/** Of those, the ones that stand in lists. */
export const listedFor = <Query extends Knex.QueryBuilder>(lessons: Query, teacher: TeacherId): Query =>
  workedOnBy(lessons, teacher).whereNull('lessons.aside') as Query;

/** By lesson, who works on it beside its owner, those who have done so longest first. */
export async function colleaguesOf(db: Knex, lessons: readonly LessonId[]): Promise<Map<LessonId, TeacherName[]>> {
  const rows: ({ lesson_id: LessonId } & TeacherName)[] = await db('lesson_colleagues')
    .join('teachers', 'teachers.id', 'lesson_colleagues.teacher_id')
    .whereIn('lesson_id', [...lessons])
    .orderBy(['since', 'name'])
    .select('lesson_id', 'teachers.id', 'teachers.name');
  const found = new Map<LessonId, TeacherName[]>();
  for (const { lesson_id, id, name } of rows) found.set(lesson_id, [...(found.get(lesson_id) ?? []), { id, name }]);
  return found;
}
