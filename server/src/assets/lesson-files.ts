import type { FileUse } from '@kite-trail/core/lesson/files';
import type { AssetId, LessonId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { AssetRow, SheetPictureRow } from '../database/rows';
import { badInput, notFound } from '../http/problem';
import { acceptedType, pictureType } from './accepted';
import { storeAsset } from './assets';

/** Gives a lesson a file to use. To give it the same one again changes nothing. @throws RequestProblem */
export async function addFile(db: Knex, lesson: LessonId, name: string, bytes: Uint8Array): Promise<AssetId> {
  const type = acceptedType(bytes);
  return db.transaction(async (trx) => {
    const asset = await storeAsset(trx, type, bytes);
    await trx('lesson_assets')
      .insert({ lesson_id: lesson, asset_id: asset, file_name: name })
      .onConflict(['lesson_id', 'asset_id'])
      .ignore();
    return asset;
  });
}

/** Keeps what a PDF's page looks like. @throws RequestProblem when there is no such PDF, or the picture is none */
export async function keepSheetPicture(db: Knex, pdf: AssetId, pageIndex: number, bytes: Uint8Array): Promise<void> {
  const { media_type } = (await db<AssetRow>('assets').where({ id: pdf }).first())!;
  if (media_type !== 'application/pdf' || !Number.isInteger(pageIndex) || pageIndex < 0) throw notFound('page');
  const type = pictureType(bytes);
  await db.transaction(async (trx) => {
    const picture = await storeAsset(trx, type, bytes);
    await trx('sheet_pictures')
      .insert({ asset_id: pdf, page_index: pageIndex, picture_asset: picture })
      .onConflict(['asset_id', 'page_index'])
      .merge();
  });
}

/** The PDF pages among files that nobody has sent a picture of yet. */
export async function undrawnAmong(db: Knex, files: readonly FileUse[]): Promise<FileUse[]> {
  const sheets = files.filter(({ pageIndex }) => pageIndex !== null);
  const assets = [...new Set(sheets.map(({ asset }) => asset))];
  const drawn = await db<SheetPictureRow>('sheet_pictures').whereIn('asset_id', assets);
  const known = new Set(drawn.map((row) => `${row.asset_id} ${row.page_index}`));
  return sheets.filter(({ asset, pageIndex }) => {
    const key = `${asset} ${pageIndex}`;
    const isNew = !known.has(key);
    known.add(key);
    return isNew;
  });
}

/** What a PDF's page looks like. @throws RequestProblem while nobody has sent it */
export async function sheetPicture(db: Knex, pdf: AssetId, pageIndex: number): Promise<AssetId> {
  const row = await db<SheetPictureRow>('sheet_pictures').where({ asset_id: pdf, page_index: pageIndex }).first();
  if (!row) throw notFound('page');
  return row.picture_asset;
}

/** A file's name as it was sent, percent-encoded in a header. */
export function fileName(header: string | undefined): string {
  try {
    return decodeURIComponent(header ?? '').slice(0, 200) || 'file';
  } catch {
    throw badInput('The file’s name cannot be read.');
  }
}
