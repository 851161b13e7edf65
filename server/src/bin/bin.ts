import type { AssetId, LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import { assetsByLesson, dropUnnamed } from '../assets/ownership';
import type { LessonAssetRow, LessonRow, TeacherSheetRow } from '../database/rows';
import { inTransaction } from '../database/transaction';
import { conflict } from '../http/problem';
import { ownLessons } from '../lessons/lessons';

const DAY_MS = 24 * 3600 * 1000;
/** So long a lesson lies in the bin before it goes for good. */
const KEPT_MS = 30 * DAY_MS;

/**
 * Puts lessons into the bin, or takes them out. What lies there can be opened and written on, so that nothing is lost that a window
 * still has to send; its links play nothing meanwhile. @throws RequestProblem where a lesson is not the teacher's
 */
export async function binLessons(
  db: Knex,
  teacher: TeacherId,
  asked: readonly LessonId[],
  isBinned: boolean,
): Promise<LessonId[]> {
  const lessons = await ownLessons(db, teacher, asked);
  const binned_at = isBinned ? new Date().toISOString() : null;
  for (const id of lessons) {
    const row = db('lessons').where({ id });
    // One that lies there already has lain there since then.
    if (isBinned) row.whereNull('binned_at');
    await row.update({ binned_at });
  }
  return lessons;
}

/** Deletes a lesson for good that lies in the bin. @throws RequestProblem unless it does */
export async function dropBinned(db: Knex, lesson: LessonRow): Promise<void> {
  if (lesson.binned_at === null) throw conflict('not-binned', 'Put the lesson into the bin first.');
  await dropLesson(db, lesson);
}

/** Deletes a lesson for good, with its recordings, links, and files that nothing else names. */
export async function dropLesson(db: Knex, { id, teacher_id }: Pick<LessonRow, 'id' | 'teacher_id'>): Promise<void> {
  const files = (await assetsByLesson(db, { 'lessons.id': id })).get(id) ?? [];
  const pdfs: AssetId[] = await db<LessonAssetRow>('lesson_assets').where({ lesson_id: id }).pluck('asset_id');
  await db('lessons').where({ id }).delete();
  await dropUnnamed(db, [...files, ...(await forgetSheets(db, teacher_id, pdfs))]);
}

/** Forgets what pages of PDFs look like that none of a teacher's lessons and templates has any more. @returns the files that were named */
export async function forgetSheets(db: Knex, teacher: TeacherId, pdfs: readonly AssetId[]): Promise<AssetId[]> {
  const named: AssetId[] = [];
  for (const asset_id of pdfs) {
    const inLesson = await db('lesson_assets')
      .join('lessons', 'lessons.id', 'lesson_assets.lesson_id')
      .where({ asset_id, teacher_id: teacher })
      .first('asset_id');
    const inTemplate = await db('template_assets')
      .join('page_templates', 'page_templates.id', 'template_assets.template_id')
      .where({ asset_id, teacher_id: teacher })
      .first('asset_id');
    if (inLesson || inTemplate) continue;
    const sheets = db<TeacherSheetRow>('teacher_sheets').where({ teacher_id: teacher, asset_id });
    named.push(...(await sheets.clone().pluck('picture_asset')));
    await sheets.delete();
  }
  return named;
}

/**
 * Deletes what has lain in the bins for 30 days, and has not been worked on there meanwhile.
 * @returns how many lessons went
 */
export async function emptyBins(db: Knex, nowMs = Date.now()): Promise<number> {
  const before = new Date(nowMs - KEPT_MS).toISOString();
  const forgotten = (at: Knex) =>
    at<LessonRow>('lessons').where('binned_at', '<', before).where('changed_at', '<', before);
  const old: LessonId[] = await forgotten(db).pluck('id');
  let gone = 0;
  for (const id of old) {
    gone += await inTransaction(db, async (trx) => {
      const lesson = await forgotten(trx).where({ id }).forUpdate().first();
      if (lesson) await dropLesson(trx, lesson);
      return lesson ? 1 : 0;
    });
  }
  return gone;
}
