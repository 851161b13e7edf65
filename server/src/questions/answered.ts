import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import { live } from '../links/live';

/** The links, first made first, by which recorded answers are watched: sharing the lesson of an answer sends it. */
const answerLinks = (db: Knex): Knex.QueryBuilder =>
  live(db('links'))
    .whereNull('part')
    .join('lessons', 'lessons.id', 'links.lesson_id')
    .whereNull('lessons.binned_at')
    .orderBy(['links.made_at', 'links.token']);

/** Lessons that answer a question for whoever watches. */
const sharedLessons = (db: Knex): Knex.QueryBuilder => answerLinks(db).clearOrder().select('links.lesson_id');

/** Of questions, those that are answered: in words, or by a recording that is shared. */
export const answered = (db: Knex, questions: Knex.QueryBuilder): Knex.QueryBuilder =>
  questions.where(
    (either) => void either.whereNotNull('questions.answer').orWhereIn('questions.answer_lesson', sharedLessons(db)),
  );

/** Of questions, those that wait. */
export const unanswered = (db: Knex, questions: Knex.QueryBuilder): Knex.QueryBuilder =>
  questions
    .whereNull('questions.answer')
    .where(
      (either) =>
        void either.whereNull('questions.answer_lesson').orWhereNotIn('questions.answer_lesson', sharedLessons(db)),
    );

/** By lesson, the token of the link by which it is watched as an answer. */
export async function answerTokens(db: Knex, lessons: readonly LessonId[]): Promise<Map<LessonId, string>> {
  const rows: { lesson_id: LessonId; token: string }[] = await answerLinks(db)
    .whereIn('links.lesson_id', [...lessons])
    .select('links.lesson_id', 'links.token');
  // Of several the first made is kept, which comes last here.
  return new Map(rows.reverse().map(({ lesson_id, token }) => [lesson_id, token]));
}
