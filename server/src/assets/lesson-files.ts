import type { AssetId, LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { AssetRow, LessonAssetRow, TeacherSheetRow } from '../database/rows';
import { notFound } from '../http/problem';
import { pictureType } from './accepted';
import { storeAsset, type NamedBytes } from './assets';

/** Gives a lesson a stored file to use. To give it the same one again changes nothing. */
export async function addFile(db: Knex, lesson: LessonId, name: string, asset: AssetId): Promise<void> {
  await db('lesson_assets')
    .insert({ lesson_id: lesson, asset_id: asset, file_name: name })
    .onConflict(['lesson_id', 'asset_id'])
    .ignore();
}

/** Keeps what a PDF's page looks like to a teacher. @throws RequestProblem when there is no such PDF, or the picture is none */
export async function keepSheetPicture(
  db: Knex,
  teacher: TeacherId,
  pdf: AssetId,
  pageIndex: number,
  picture: NamedBytes,
): Promise<void> {
  const { media_type } = (await db<AssetRow>('assets').where({ id: pdf }).first())!;
  if (media_type !== 'application/pdf') throw notFound('page');
  const stored = await storeAsset(db, pictureType(picture.bytes), picture);
  await db('teacher_sheets')
    .insert({ teacher_id: teacher, asset_id: pdf, page_index: pageIndex, picture_asset: stored })
    .onConflict(['teacher_id', 'asset_id', 'page_index'])
    .merge();
}

/** What a PDF's page looks like to a teacher. @throws RequestProblem while nobody has sent it */
export async function sheetPicture(db: Knex, teacher: TeacherId, pdf: AssetId, pageIndex: number): Promise<AssetId> {
  const page = { teacher_id: teacher, asset_id: pdf, page_index: pageIndex };
  const row = await db<TeacherSheetRow>('teacher_sheets').where(page).first();
  if (!row) throw notFound('page');
  return row.picture_asset;
}

/** Gives another teacher what the pages of a lesson's PDFs look like, as its teacher drew them. */
export async function lendSheets(db: Knex, lesson: LessonId, from: TeacherId, to: TeacherId): Promise<void> {
  const files = db<LessonAssetRow>('lesson_assets').where({ lesson_id: lesson }).select('asset_id');
  const sheets = await db<TeacherSheetRow>('teacher_sheets').where({ teacher_id: from }).whereIn('asset_id', files);
  for (const sheet of sheets) {
    const lent = { ...sheet, teacher_id: to };
    await db('teacher_sheets').insert(lent).onConflict(['teacher_id', 'asset_id', 'page_index']).ignore();
  }
}
