import type { AssetId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { AssetRow } from '../database/rows';

/** By what a row that names assets belongs to a teacher. */
type Owner = (rows: Knex.QueryBuilder, teacher: TeacherId) => Knex.QueryBuilder;

const ofLesson: Owner = (rows, teacher) =>
  rows.whereIn('lesson_id', (lessons) => lessons.from('lessons').where({ teacher_id: teacher }).select('id'));
const ofTemplate: Owner = (rows, teacher) =>
  rows.whereIn('template_id', (all) => all.from('page_templates').where({ teacher_id: teacher }).select('id'));
const ofTeacher: Owner = (rows, teacher) => rows.where({ teacher_id: teacher });
const ofPublication: Owner = (rows, teacher) =>
  rows.whereIn('publication_id', (all) => ofLesson(all.from('publications'), teacher).select('id'));

/** Every column that names an asset which has to be there. */
export const NAMING_ASSETS: readonly { table: string; column: string; owner: Owner }[] = [
  { table: 'lesson_assets', column: 'asset_id', owner: ofLesson },
  { table: 'template_assets', column: 'asset_id', owner: ofTemplate },
  { table: 'teacher_sheets', column: 'asset_id', owner: ofTeacher },
  { table: 'teacher_sheets', column: 'picture_asset', owner: ofTeacher },
  { table: 'uploads', column: 'chunks_of', owner: ofTeacher },
  { table: 'takes', column: 'sound_asset', owner: ofLesson },
  { table: 'takes', column: 'marks_asset', owner: ofLesson },
  { table: 'takes', column: 'profile_asset', owner: ofLesson },
  { table: 'publications', column: 'sound_asset', owner: ofLesson },
  { table: 'publications', column: 'payload_asset', owner: ofLesson },
  { table: 'publication_assets', column: 'asset_id', owner: ofPublication },
  { table: 'publication_sheets', column: 'asset_id', owner: ofPublication },
  { table: 'publication_sheets', column: 'picture_asset', owner: ofPublication },
];

/** The assets that anything of a teacher's names. */
export async function assetsOf(db: Knex, teacher: TeacherId): Promise<AssetId[]> {
  const named = new Set<AssetId>();
  for (const { table, column, owner } of NAMING_ASSETS) {
    const rows: AssetId[] = await owner(db(table), teacher).whereNotNull(column).distinct().pluck(column);
    for (const asset of rows) named.add(asset);
  }
  return [...named];
}

/** So many values a query may name in any database. */
const AT_ONCE = 400;

/** Deletes those of the assets that nothing names any more. */
export async function dropUnnamed(db: Knex, assets: readonly AssetId[]): Promise<void> {
  for (let from = 0; from < assets.length; from += AT_ONCE) {
    const unnamed = db('assets').whereIn('id', assets.slice(from, from + AT_ONCE));
    for (const { table, column } of NAMING_ASSETS) {
      unnamed.whereNotIn('id', (named) => named.from(table).whereNotNull(column).select(column));
    }
    const gone = await unnamed.select<AssetRow[]>('id', 'chunks_of');
    const ids = gone.flatMap(({ id, chunks_of }) => (chunks_of === null ? [id] : [id, chunks_of]));
    await db('assets').whereIn('id', ids).delete();
  }
}
