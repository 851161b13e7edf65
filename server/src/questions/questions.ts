import { readForm } from '@kite-trail/core/contract/forms';
import type { NewQuestion, Question } from '@kite-trail/core/contract/question';
import type { Watch } from '@kite-trail/core/contract/watch';
import type { PromptId } from '@kite-trail/core/lesson/ids';
import { placeSegments, toTake } from '@kite-trail/core/trail/programme';
import { placePrompts } from '@kite-trail/core/trail/prompts';
import type { Knex } from 'knex';
import type { LessonRow, LinkRow, PublicationRow, QuestionRow } from '../database/rows';
import { conflict, notFound, RequestProblem } from '../http/problem';
import { rulesOf } from '../links/live';

/** More than this nobody answers. */
const MOST_OPEN = 300;

/** Whether those who watch something may ask about it. */
export const mayAsk = (link: LinkRow, publication: PublicationRow): boolean =>
  rulesOf(link).allows.questions && publication.programme !== null;

/**
 * Keeps what somebody who watches asks; asked again, it is the same question.
 * @throws RequestProblem where questions are not allowed, or too many wait
 */
export async function ask(db: Knex, link: LinkRow, publication: PublicationRow, asked: NewQuestion): Promise<void> {
  if (!mayAsk(link, publication)) {
    throw new RequestProblem(403, 'no-questions', 'Questions cannot be left here any more. Ask your teacher.');
  }
  const { lesson_id, token } = link;
  const open = await db('questions').where({ lesson_id, answer: null }).count({ count: '*' }).first();
  if (Number(open?.count) >= MOST_OPEN) {
    throw conflict('too-many-questions', 'Many questions wait for an answer. Ask this one later.');
  }
  const played = toTake(placeSegments(readForm('programme', publication.programme!)), asked.atSamples);
  if (!played) throw notFound('moment');
  await db('questions')
    .insert({
      id: asked.id,
      lesson_id,
      token,
      take_id: played.placed.segment.take,
      take_samples: played.takeSamples,
      question: asked.question,
      asked_at: new Date().toISOString(),
      answer: null,
      answered_at: null,
    } satisfies QuestionRow)
    .onConflict('id')
    .ignore();
}

/** The questions about a lesson, those that wait first, then by when they were asked. */
export async function listQuestions(db: Knex, { id }: LessonRow): Promise<Question[]> {
  const rows: (QuestionRow & Pick<LinkRow, 'name' | 'class_id'>)[] = await db('questions')
    .where({ 'questions.lesson_id': id })
    .join('links', 'links.token', 'questions.token')
    .orderBy('asked_at', 'desc')
    .orderBy('id')
    .select('questions.*', 'links.name', 'links.class_id');
  return rows
    .map((row) => ({
      id: row.id,
      moment: { take: row.take_id, atSamples: Number(row.take_samples) },
      question: row.question,
      askedAt: row.asked_at,
      link: row.name,
      schoolClass: row.class_id,
      answer: row.answer,
    }))
    .sort((a, b) => Number(a.answer !== null) - Number(b.answer !== null));
}

/** Answers a question, or takes an answer back. @throws RequestProblem where the question is not about this lesson */
export async function answer(db: Knex, { id: lesson_id }: LessonRow, id: string, said: string): Promise<void> {
  const answered = said === '' ? null : said;
  const changed = await db('questions')
    .where({ id, lesson_id })
    .update({ answer: answered, answered_at: answered && new Date().toISOString() });
  if (changed === 0) throw notFound('question');
}

/** @throws RequestProblem where the question is not about this lesson */
export async function dropQuestion(db: Knex, { id: lesson_id }: LessonRow, id: string): Promise<void> {
  if ((await db('questions').where({ id, lesson_id }).delete()) === 0) throw notFound('question');
}

/** What was asked and answered about what a publication plays, where it plays. */
export async function answeredIn(db: Knex, link: LinkRow, publication: PublicationRow): Promise<Watch['questions']> {
  if (!mayAsk(link, publication)) return [];
  const rows = await db<QuestionRow>('questions')
    .where({ lesson_id: link.lesson_id })
    .whereNotNull('answer')
    .orderBy('answered_at', 'desc')
    .limit(MOST_OPEN);
  const placed = placePrompts(
    readForm('programme', publication.programme!),
    rows.map((row) => ({
      id: row.id as PromptId,
      take: row.take_id,
      atSamples: Number(row.take_samples),
      question: row.question,
      answer: row.answer!,
    })),
  );
  return placed.map(({ prompt: { id, question, answer: said }, atSamples }) => ({
    id,
    atSamples,
    question,
    answer: said,
  }));
}
