import type { AssetId, LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { AssetRow } from '../database/rows';

/** What a row that names assets belongs to. */
type Owner = 'lesson' | 'publication' | 'template' | 'teacher';

/** Every column that names an asset which has to be there. */
export const NAMING_ASSETS: readonly { table: string; column: string; of: Owner }[] = [
  { table: 'lesson_assets', column: 'asset_id', of: 'lesson' },
  { table: 'template_assets', column: 'asset_id', of: 'template' },
  { table: 'teacher_sheets', column: 'asset_id', of: 'teacher' },
  { table: 'teacher_sheets', column: 'picture_asset', of: 'teacher' },
  { table: 'uploads', column: 'chunks_of', of: 'teacher' },
  { table: 'takes', column: 'sound_asset', of: 'lesson' },
  { table: 'takes', column: 'marks_asset', of: 'lesson' },
  { table: 'takes', column: 'profile_asset', of: 'lesson' },
  { table: 'given_pages', column: 'picture_asset', of: 'lesson' },
  { table: 'publications', column: 'sound_asset', of: 'lesson' },
  { table: 'publications', column: 'payload_asset', of: 'lesson' },
  { table: 'publications', column: 'picture_asset', of: 'lesson' },
  { table: 'publication_assets', column: 'asset_id', of: 'publication' },
  { table: 'publication_sheets', column: 'asset_id', of: 'publication' },
  { table: 'publication_sheets', column: 'picture_asset', of: 'publication' },
];

/** The rows of a table with those that say whose lesson, template or account they are about. */
function withOwner(db: Knex, table: string, of: Owner): Knex.QueryBuilder {
  if (of === 'teacher') return db(table);
  if (of === 'template') return db(table).join('page_templates', 'page_templates.id', 'template_id');
  const rows = of === 'publication' ? db(table).join('publications', 'publications.id', 'publication_id') : db(table);
  return rows.join('lessons', 'lessons.id', 'lesson_id');
}

/** The assets that anything of a teacher's names. */
export async function assetsOf(db: Knex, teacher: TeacherId): Promise<AssetId[]> {
  const named = new Set<AssetId>();
  for (const { table, column, of } of NAMING_ASSETS) {
    const name = `${table}.${column}`;
    const rows = withOwner(db, table, of).where({ teacher_id: teacher }).whereNotNull(name);
    for (const asset of (await rows.distinct().pluck(name)) as AssetId[]) named.add(asset);
  }
  return [...named];
}

/** The assets that anything of a lesson's names, lesson by lesson. @param which of the lessons are asked for */
export async function assetsByLesson(
  db: Knex,
  which: { teacher_id: TeacherId } | { 'lessons.id': LessonId },
): Promise<Map<LessonId, Set<AssetId>>> {
  const named = new Map<LessonId, Set<AssetId>>();
  for (const { table, column, of } of NAMING_ASSETS) {
    if (of !== 'lesson' && of !== 'publication') continue;
    const name = `${table}.${column}`;
    const rows: { lesson: LessonId; asset: AssetId }[] = await withOwner(db, table, of)
      .where(which)
      .whereNotNull(name)
      .distinct({ lesson: 'lessons.id', asset: name });
    for (const { lesson, asset } of rows) {
      const own = named.get(lesson);
      if (own) own.add(asset);
      else named.set(lesson, new Set([asset]));
    }
  }
  return named;
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
