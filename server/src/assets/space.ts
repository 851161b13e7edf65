import type { Space } from '@kite-trail/core/contract/overview';
import type { AssetId, LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { LessonRow, TakeRow } from '../database/rows';
import { assetsByLesson, assetsOf } from './ownership';

/** How many bytes each asset has. */
type Sizes = ReadonlyMap<AssetId, number>;

/** What a teacher's lessons take up at the school: a file that several lessons name counts once, and goes with the last of them. */
export async function measureSpace(db: Knex, { teacher }: { teacher: TeacherId }): Promise<Omit<Space, 'freeBytes'>> {
  const sizes = await assetSizes(db);
  const lessons = await db<LessonRow>('lessons')
    .where({ teacher_id: teacher })
    .select('id', 'title', 'binned_at', 'aside');
  const named = await assetsByLesson(db, { teacher_id: teacher });
  const namedBy = new Map<AssetId, number>();
  for (const assets of named.values()) for (const asset of assets) namedBy.set(asset, (namedBy.get(asset) ?? 0) + 1);
  const alone = (id: LessonId) => [...(named.get(id) ?? [])].filter((asset) => namedBy.get(asset) === 1);
  const written = await writtenSizes(db);
  // What students make is counted, but stands in no list.
  const listed = lessons.filter(({ aside }) => aside === null);
  const measured = listed.map(({ id, title, binned_at }) => ({
    id,
    title,
    bytes: (written.get(id) ?? 0) + sum(alone(id), sizes),
    isBinned: binned_at !== null,
  }));
  const writtenByTeacher = lessons.reduce((all, { id }) => all + (written.get(id) ?? 0), 0);
  const binned = measured.filter(({ isBinned }) => isBinned).reduce((all, { bytes }) => all + bytes, 0);
  return {
    ownBytes: writtenByTeacher + sum(await assetsOf(db, teacher), sizes),
    binnedBytes: binned + (await binnedTakeBytes(db, teacher, sizes)),
    schoolBytes: [...sizes.values(), ...written.values()].reduce((all, bytes) => all + bytes, 0),
    lessons: measured.sort((a, b) => b.bytes - a.bytes),
  };
}

/** Where what was written in lessons is kept. */
const WRITTEN = {
  pages: ['lesson_id', 'pieces'],
  lessons: ['id', 'between_marks', 'history'],
  takes: ['lesson_id', 'plan'],
  programmes: ['lesson_id', 'segments', 'ink_edits', 'chapters', 'captions', 'prompts'],
  versions: ['lesson_id', 'edition'],
} as const;

/** How many bytes are written in each lesson, with all its edits. */
async function writtenSizes(db: Knex): Promise<Map<LessonId, number>> {
  const all = new Map<LessonId, number>();
  for (const [table, [key, ...columns]] of Object.entries(WRITTEN)) {
    const bytes = columns.map((column) => `coalesce(octet_length(${column}), 0)`).join(' + ');
    const rows: { lesson: LessonId; bytes: number }[] = await db(table)
      .groupBy(key)
      .select({ lesson: key })
      .sum({ bytes: db.raw(bytes) });
    for (const row of rows) all.set(row.lesson, (all.get(row.lesson) ?? 0) + Number(row.bytes));
  }
  return all;
}

async function assetSizes(db: Knex): Promise<Sizes> {
  const rows = await db('assets').select<{ id: AssetId; size_bytes: number }[]>('id', 'size_bytes');
  return new Map(rows.map(({ id, size_bytes }) => [id, Number(size_bytes)]));
}

const sum = (assets: readonly AssetId[], sizes: Sizes): number =>
  assets.reduce((all, asset) => all + (sizes.get(asset) ?? 0), 0);

/** Recordings in the bins of lessons that are not in one. */
async function binnedTakeBytes(db: Knex, teacher: TeacherId, sizes: Sizes): Promise<number> {
  const takes = await db('takes')
    .join('lessons', 'lessons.id', 'lesson_id')
    .where({ teacher_id: teacher })
    .whereNull('lessons.binned_at')
    .whereNotNull('takes.binned_at')
    .select<Pick<TakeRow, 'sound_asset' | 'marks_asset' | 'profile_asset'>[]>(
      'sound_asset',
      'marks_asset',
      'profile_asset',
    );
  const assets = takes.flatMap((take) => [take.sound_asset, take.marks_asset, take.profile_asset]);
  return sum([...new Set(assets.filter((asset) => asset !== null))], sizes);
}
