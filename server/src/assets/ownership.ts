import type { AssetId, LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { AssetRow } from '../database/rows';

/** Whose assets are asked for: a teacher's, or those of one lesson. */
type Owner = { teacher: TeacherId } | { lesson: LessonId };
/** Those of the rows that belong to an owner. */
type Owned = (rows: Knex.QueryBuilder, owner: Owner) => Knex.QueryBuilder;

const ofLesson: Owned = (rows, owner) =>
  'lesson' in owner
    ? rows.where({ lesson_id: owner.lesson })
    : rows.whereIn('lesson_id', (lessons) => lessons.from('lessons').where({ teacher_id: owner.teacher }).select('id'));
const ofPublication: Owned = (rows, owner) =>
  rows.whereIn('publication_id', (all) => ofLesson(all.from('publications'), owner).select('id'));
/** What a teacher has beside lessons. */
const ofTeacher =
  (own: (rows: Knex.QueryBuilder, teacher: TeacherId) => Knex.QueryBuilder): Owned =>
  (rows, owner) =>
    'teacher' in owner ? own(rows, owner.teacher) : rows.whereRaw('1 = 0');
const ofTemplate = ofTeacher((rows, teacher) =>
  rows.whereIn('template_id', (all) => all.from('page_templates').where({ teacher_id: teacher }).select('id')),
);
const ofAccount = ofTeacher((rows, teacher) => rows.where({ teacher_id: teacher }));

/** Every column that names an asset which has to be there. */
export const NAMING_ASSETS: readonly { table: string; column: string; owner: Owned }[] = [
  { table: 'lesson_assets', column: 'asset_id', owner: ofLesson },
  { table: 'template_assets', column: 'asset_id', owner: ofTemplate },
  { table: 'teacher_sheets', column: 'asset_id', owner: ofAccount },
  { table: 'teacher_sheets', column: 'picture_asset', owner: ofAccount },
  { table: 'uploads', column: 'chunks_of', owner: ofAccount },
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
export const assetsOf = (db: Knex, teacher: TeacherId): Promise<AssetId[]> => assetsNamedBy(db, { teacher });

/** The assets that anything of a lesson's names. */
export const assetsOfLesson = (db: Knex, lesson: LessonId): Promise<AssetId[]> => assetsNamedBy(db, { lesson });

async function assetsNamedBy(db: Knex, who: Owner): Promise<AssetId[]> {
  const named = new Set<AssetId>();
  for (const { table, column, owner } of NAMING_ASSETS) {
    const rows: AssetId[] = await owner(db(table), who).whereNotNull(column).distinct().pluck(column);
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
