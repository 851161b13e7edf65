import { titleOf } from '@kite-trail/core/contract/lesson';
import { filesOn } from '@kite-trail/core/lesson/files';
import type { AssetId, LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { timelineOf } from '@kite-trail/core/formats/payload';
import { placeSegments, whenPlayed } from '@kite-trail/core/trail/programme';
import type { Knex } from 'knex';
import { addToClasses, classesWith } from '../classes/classes';
import type { LessonAssetRow, LessonColleagueRow, LessonRow, QuestionRow } from '../database/rows';
import { notFound } from '../http/problem';
import { lessonOf, makeLesson, writtenPage, type WrittenPage } from '../lessons/lessons';
import { playOut, sceneNow } from '../lessons/trails';
import { lendTo } from '../together/together';
import { colleaguesOf, workedOnBy } from '../together/worked-on';

/** On what a question is answered. */
export interface AnswerPage {
  page: WrittenPage;
  /** The pictures and PDFs on it. */
  assets: AssetId[];
}

/**
 * The page that is shown at the moment a question is about, as it is then; where the moment has been cut out, the first page as it
 * stands. @throws RequestProblem where the question is not about this lesson
 */
export async function gatherAnswerPage(
  db: Knex,
  { lesson: id, question }: { lesson: LessonId; question: string },
): Promise<AnswerPage> {
  const lesson = await lessonOf(db, id);
  const { take_id, take_samples } = await questionIn(db, lesson, question);
  const played = await playOut(db, lesson);
  const moment = { take: take_id, atSamples: Number(take_samples) };
  const atSamples = whenPlayed(placeSegments(played.edition.programme), moment);
  const page =
    atSamples === null ? (await sceneNow(db, lesson)).pages[0] : shownPage(timelineOf(played).at(atSamples).scene);
  return { page: writtenPage(page), assets: filesOn(page).map(({ asset }) => asset) };
}

/**
 * The lesson in which a teacher answers a question by a recording: a new one with that page, unless it was begun already. All who work
 * on the lesson that is asked about work on its answer, too.
 * @throws RequestProblem where the question is not about this lesson
 */
export async function answerByRecording(
  db: Knex,
  teacher: TeacherId,
  lesson: LessonRow,
  id: string,
  { page, assets }: AnswerPage,
): Promise<LessonId> {
  const { question, answer_lesson } = await questionIn(db, lesson, id);
  const begun = await workedOnBy(db<LessonRow>('lessons'), teacher)
    .where('lessons.id', answer_lesson)
    .whereNull('binned_at')
    .first('lessons.id');
  if (begun) return begun.id;
  const made = await makeLesson(db, teacher, titleOf(`Answer: ${question.replace(/\s+/g, ' ')}`), [page]);
  const files = await db<LessonAssetRow>('lesson_assets').where({ lesson_id: lesson.id }).whereIn('asset_id', assets);
  for (const file of files) await db('lesson_assets').insert({ ...file, lesson_id: made.id });
  await lendTo(db, lesson, teacher);
  await addToClasses(db, made, await classesWith(db, teacher, lesson.id));
  const colleagues = (await colleaguesOf(db, [lesson.id])).get(lesson.id) ?? [];
  for (const one of [lesson.teacher_id, ...colleagues.map((colleague) => colleague.id)]) {
    if (one === teacher) continue;
    const row: LessonColleagueRow = { lesson_id: made.id, teacher_id: one, since: made.created_at };
    await db('lesson_colleagues').insert(row);
  }
  await db('questions').where({ id }).update({ answer_lesson: made.id });
  return made.id;
}

async function questionIn(db: Knex, lesson: LessonRow, id: string): Promise<QuestionRow> {
  const row = await db<QuestionRow>('questions').where({ id, lesson_id: lesson.id }).first();
  if (!row) throw notFound('question');
  return row;
}
