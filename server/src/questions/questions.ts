import { readForm } from '@kite-trail/core/contract/forms';
import { isAnswered, type NewQuestion, type Question } from '@kite-trail/core/contract/question';
import type { Watch } from '@kite-trail/core/contract/watch';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { TakeMoment } from '@kite-trail/core/trail/ink-edits';
import { placeSegments, toTake, whenPlayed, type Programme } from '@kite-trail/core/trail/programme';
import type { Knex } from 'knex';
import type { LessonRow, LinkRow, PublicationRow, QuestionRow } from '../database/rows';
import { conflict, notFound, RequestProblem } from '../http/problem';
import type { Ground } from '../http/route';
import { rulesOf } from '../links/live';
import { answered, answerTokens, unanswered } from './answered';

/** More than this nobody answers. */
const MOST_OPEN = 300;

/** Whether those who watch something may ask about it. */
export const mayAsk = (link: LinkRow, publication: PublicationRow): boolean =>
  rulesOf(link).allows.questions && publication.programme !== null;

/** How much there is to read of what a publication plays. */
export const programmeBytes = ({ programme }: PublicationRow): number => programme?.length ?? 0;

/** Which moment of which take a publication plays at some time, or `null` where nothing plays. */
export async function momentIn(
  db: Knex,
  { publication, atSamples }: { publication: string; atSamples: number },
): Promise<TakeMoment | null> {
  const played = toTake(placeSegments(await programmeOf(db, publication)), atSamples);
  return played && { take: played.placed.segment.take, atSamples: played.takeSamples };
}

async function programmeOf(db: Knex, id: string): Promise<Programme> {
  const { programme } = (await db<PublicationRow>('publications').where({ id }).first('programme'))!;
  return readForm('programme', programme!);
}

/**
 * Keeps what somebody who watches asks; asked again, it is the same question.
 * @param moment which was heard, or `null`
 * @throws RequestProblem where questions are not allowed, or too many wait
 */
export async function ask(
  db: Knex,
  link: LinkRow,
  publication: PublicationRow,
  { id, question: said }: NewQuestion,
  moment: TakeMoment | null,
): Promise<void> {
  if (!mayAsk(link, publication)) {
    throw new RequestProblem(403, 'no-questions', 'Questions cannot be left here any more. Ask your teacher.');
  }
  if (!moment) throw notFound('moment');
  const { lesson_id, token } = link;
  const open = await unanswered(db, db('questions').where({ lesson_id })).count({ count: '*' }).first();
  if (Number(open?.count) >= MOST_OPEN) {
    throw conflict('too-many-questions', 'Many questions wait for an answer. Ask this one later.');
  }
  await db('questions')
    .insert({
      ...{ id, lesson_id, token, question: said },
      take_id: moment.take,
      take_samples: moment.atSamples,
      asked_at: new Date().toISOString(),
      answer: null,
      answered_at: null,
      answer_lesson: null,
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
  const tokens = await answerTokens(db, answerLessonsOf(rows));
  return rows
    .map((row) => ({
      id: row.id,
      moment: { take: row.take_id, atSamples: Number(row.take_samples) },
      question: row.question,
      askedAt: row.asked_at,
      link: row.name,
      schoolClass: row.class_id,
      answer: row.answer,
      recording: row.answer_lesson && {
        lesson: row.answer_lesson,
        token: tokens.get(row.answer_lesson) ?? null,
      },
    }))
    .sort((a, b) => Number(isAnswered(a)) - Number(isAnswered(b)));
}

const answerLessonsOf = (rows: readonly QuestionRow[]) => rows.flatMap((row) => row.answer_lesson ?? []);

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
export async function answeredIn({ db, work }: Ground, link: LinkRow, publication: PublicationRow) {
  if (!mayAsk(link, publication)) return [];
  const { lesson_id } = link;
  const one = await answered(db, db('questions').where({ lesson_id })).first('id');
  // Of most lessons nobody has asked anything: what they play need not be read.
  if (!one) return [];
  const asked = { lesson: lesson_id, publication: publication.id };
  return work.do('placeAnswers', `${link.token} answers`, asked, programmeBytes(publication));
}

/** The answered questions about a lesson, where a publication plays what they are about. */
export async function placeAnswers(
  db: Knex,
  { lesson, publication }: { lesson: LessonId; publication: string },
): Promise<Watch['questions']> {
  const rows: QuestionRow[] = await answered(db, db<QuestionRow>('questions').where({ lesson_id: lesson }))
    .orderBy('asked_at', 'desc')
    .limit(MOST_OPEN);
  const tokens = await answerTokens(db, answerLessonsOf(rows));
  const placed = placeSegments(await programmeOf(db, publication));
  return rows
    .flatMap(({ id, question: said, answer: words, answer_lesson, take_id, take_samples }) => {
      const atSamples = whenPlayed(placed, { take: take_id, atSamples: Number(take_samples) });
      const recording = answer_lesson && (tokens.get(answer_lesson) ?? null);
      return atSamples === null ? [] : [{ id, atSamples, question: said, answer: words, recording }];
    })
    .sort((a, b) => a.atSamples - b.atSamples);
}
