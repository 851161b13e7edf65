import { readForm, writeForm } from '@kite-trail/core/contract/forms';
import { NOTHING_SAID, type LessonAbout, type LessonSummary } from '@kite-trail/core/contract/lesson';
import { contentsOf, decodeContents, encodeMarks, pageStateFrom } from '@kite-trail/core/formats/marks-coding';
import type { LessonId, PageId, TeacherId } from '@kite-trail/core/lesson/ids';
import { wideSquaredPage, type Page } from '@kite-trail/core/lesson/page';
import type { PageState } from '@kite-trail/core/lesson/scene';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import { notFound } from '../http/problem';
import { live } from '../links/live';
import { unanswered } from '../questions/answered';
import type { FavouriteRow, LessonRow, PageRow, TeacherRow } from '../database/rows';
import { colleaguesOf, listedFor } from '../together/worked-on';

const now = () => new Date().toISOString();

/** A page, and what lies on it in the bytes of `formats/marks-coding`. */
export interface WrittenPage {
  page: Page;
  contents: Uint8Array;
}

export const writtenPage = (state: PageState): WrittenPage => ({ page: state.page, contents: contentsOf(state) });

/** Makes a lesson with one squared page, or with the pages given. */
export async function makeLesson(
  db: Knex,
  teacher: TeacherId,
  title: string,
  pages: readonly WrittenPage[] = [writtenPage({ page: wideSquaredPage(nanoid() as PageId), pieces: [] })],
  { id = nanoid() as LessonId, aside = null }: { id?: LessonId; aside?: LessonRow['aside'] } = {},
): Promise<LessonRow> {
  const lesson: LessonRow = {
    id,
    teacher_id: teacher,
    title,
    revision: 1,
    between_marks: Buffer.from(encodeMarks([])),
    programme_n: 0,
    created_at: now(),
    changed_at: now(),
    history: null,
    history_of: null,
    about: null,
    binned_at: null,
    source: null,
    is_counted: true,
    read_at_change: null,
    aside,
  };
  await db('lessons').insert(lesson);
  for (const [position, page] of pages.entries()) await db('pages').insert(rowOfPage(lesson.id, position, page));
  return lesson;
}

const LISTED = ['id', 'teacher_id', 'title', 'about', 'source', 'created_at', 'changed_at', 'binned_at'] as const;
type ListedRow = Pick<LessonRow, (typeof LISTED)[number]> & { length_samples: number | null };

/** The lessons a teacher works on, those changed last first, also those in the bin. */
export async function listLessons(db: Knex, { teacher }: { teacher: TeacherId }): Promise<LessonSummary[]> {
  const favourites: LessonId[] = await db<FavouriteRow>('favourites').where({ teacher_id: teacher }).pluck('lesson_id');
  const isFavourite = new Set(favourites);
  const rows = await listedFor(db('lessons'), teacher)
    // What somebody else has put away is theirs to take out of the bin.
    .where((all) => void all.where('lessons.teacher_id', teacher).orWhereNull('binned_at'))
    .leftJoin('programmes', (join) =>
      join.on('programmes.lesson_id', 'lessons.id').andOn('programmes.n', 'lessons.programme_n'),
    )
    .orderBy('changed_at', 'desc')
    // Not what is written in it, which may be megabytes.
    .select<ListedRow[]>(...LISTED.map((column) => `lessons.${column}`), 'programmes.length_samples');
  const pageCounts = await countBy(db('pages'), rows);
  const linkCounts = await countBy(live(db('links')), rows);
  const colleagues = await colleaguesOf(
    db,
    rows.map(({ id }) => id),
  );
  const owners = await namesOf(db, rows, teacher);
  const questionCounts = await countBy(unanswered(db, db('questions')), rows);
  return rows.map((row) => ({
    id: row.id,
    title: row.title,
    about: aboutOf(row),
    source: row.source === null ? null : readForm('source', row.source),
    owner: owners.get(row.teacher_id) ?? null,
    colleagues: (colleagues.get(row.id) ?? []).filter(({ id }) => id !== teacher).map(({ name }) => name),
    isFavourite: isFavourite.has(row.id),
    pageCount: pageCounts.get(row.id) ?? 0,
    lengthSamples: Number(row.length_samples ?? 0),
    shared: linkCounts.has(row.id),
    openQuestions: questionCounts.get(row.id) ?? 0,
    madeAt: row.created_at,
    changedAt: row.changed_at,
    binnedAt: row.binned_at,
    pictureVersion: Date.parse(row.changed_at),
  }));
}

/** The names of those teachers whose lessons these are, but for the one who reads. */
async function namesOf(
  db: Knex,
  lessons: readonly Pick<LessonRow, 'teacher_id'>[],
  reader: TeacherId,
): Promise<Map<TeacherId, string>> {
  const others = new Set(lessons.map(({ teacher_id }) => teacher_id));
  others.delete(reader);
  const rows = await db<TeacherRow>('teachers')
    .whereIn('id', [...others])
    .select('id', 'name');
  return new Map(rows.map(({ id, name }) => [id, name]));
}

/** How much is said about a teacher's lessons, about. */
export async function listedBytes(db: Knex, teacher: TeacherId): Promise<number> {
  const row = await listedFor(db('lessons'), teacher)
    .count({ count: '*' })
    .sum({ bytes: db.raw('octet_length(about)') })
    .first();
  return Number(row?.bytes ?? 0) + LISTED_BYTES * Number(row?.count ?? 0);
}
/** What a lesson of which nothing is said takes in a list. */
const LISTED_BYTES = 400;

async function countBy(query: Knex.QueryBuilder, lessons: readonly { id: LessonId }[]): Promise<Map<LessonId, number>> {
  const rows: { lesson_id: LessonId; count: number }[] = await query
    .whereIn(
      'lesson_id',
      lessons.map((lesson) => lesson.id),
    )
    .groupBy('lesson_id')
    .select('lesson_id')
    .count({ count: '*' });
  return new Map(rows.map((row) => [row.lesson_id, Number(row.count)]));
}

/** What its teacher says about a lesson. */
export const aboutOf = ({ about }: Pick<LessonRow, 'about'>): LessonAbout =>
  about === null ? NOTHING_SAID : readForm('about', about);

export const renameLesson = (db: Knex, lesson: LessonRow, title: string): Promise<void> =>
  changeRow(db, lesson, { title });

export const sayAbout = (db: Knex, lesson: LessonRow, about: LessonAbout): Promise<void> =>
  changeRow(db, lesson, { about: writeForm('about', about) });

async function changeRow(db: Knex, { id }: LessonRow, changes: Partial<LessonRow>): Promise<void> {
  await db('lessons')
    .where({ id })
    .update({ ...changes, changed_at: now() });
}

/** So many values a query may name in any database. */
const NAMED_AT_ONCE = 400;

/** @throws RequestProblem where one is not their own, as `lessonsFor` */
export const ownLessons = (db: Knex, teacher: TeacherId, asked: readonly LessonId[]): Promise<LessonId[]> =>
  found(db, asked, (lessons) => lessons.where({ teacher_id: teacher }).whereNull('aside'));

/** @throws RequestProblem where they do not work on one, as `ownLessons` */
export const lessonsFor = (db: Knex, teacher: TeacherId, asked: readonly LessonId[]): Promise<LessonId[]> =>
  found(db, asked, (lessons) => listedFor(lessons, teacher));

/**
 * Those lessons that were asked for, in the order asked for, each once; nobody else changes them until the transaction
 * has ended. @throws RequestProblem where one is not theirs
 */
async function found(
  db: Knex,
  asked: readonly LessonId[],
  allowed: (lessons: Knex.QueryBuilder) => Knex.QueryBuilder,
): Promise<LessonId[]> {
  const ids = [...new Set(asked)];
  // All ask in the same order, so that nobody waits for one who waits for them.
  const sorted = ids.toSorted();
  const own = new Set<LessonId>();
  for (let from = 0; from < ids.length; from += NAMED_AT_ONCE) {
    const rows: Knex.QueryBuilder = allowed(db('lessons'))
      .whereIn('id', sorted.slice(from, from + NAMED_AT_ONCE))
      .orderBy('id')
      .forUpdate();
    for (const { id } of await rows.select<{ id: LessonId }[]>('id')) own.add(id);
  }
  if (ids.some((id) => !own.has(id))) throw notFound('lesson');
  return ids;
}

/** Puts lessons among a teacher's favourites, or takes them out. @throws RequestProblem as `lessonsFor` */
export async function favour(db: Knex, teacher_id: TeacherId, asked: readonly LessonId[], isFavourite: boolean) {
  for (const lesson_id of await lessonsFor(db, teacher_id, asked)) {
    if (!isFavourite) await db('favourites').where({ teacher_id, lesson_id }).delete();
    else await db('favourites').insert({ teacher_id, lesson_id }).onConflict(['teacher_id', 'lesson_id']).ignore();
  }
}

/** The lesson's row as it is now. */
export const lessonOf = async (db: Knex, id: LessonId): Promise<LessonRow> =>
  (await db<LessonRow>('lessons').where({ id }).first())!;

/** The lesson's pages as prepared. */
export async function readPages(db: Knex, lesson: LessonId): Promise<PageState[]> {
  return (await writtenPages(db, lesson)).map(({ page, contents }) => pageStateFrom(page, decodeContents(contents)));
}

export async function writtenPages(db: Knex, lesson: LessonId): Promise<WrittenPage[]> {
  const rows = await db<PageRow>('pages').where({ lesson_id: lesson }).orderBy('position');
  return rows.map((row) => ({ page: pageOf(row), contents: row.pieces }));
}

/** How much is written in a lesson and its editions, about. */
export async function writtenBytes(db: Knex, id: LessonId): Promise<number> {
  const sum = async (table: string, key: string, ...columns: string[]) => {
    const bytes = columns.map((column) => `coalesce(octet_length(${column}), 0)`).join(' + ');
    const row = await db(table)
      .where({ [key]: id })
      .sum({ bytes: db.raw(bytes) })
      .first();
    return Number(row?.bytes ?? 0);
  };
  return (
    (await sum('pages', 'lesson_id', 'pieces')) +
    (await sum('lessons', 'id', 'between_marks', 'history')) +
    (await sum('takes', 'lesson_id', 'plan')) +
    // Most edits change the programme alone, and each keeps its own: the largest stands for the one in force.
    (await largestEditionBytes(db, id))
  );
}

async function largestEditionBytes(db: Knex, lesson: LessonId): Promise<number> {
  const columns = ['segments', 'ink_edits', 'chapters', 'captions', 'prompts'];
  const row: Record<string, unknown> | undefined = await db('programmes')
    .where({ lesson_id: lesson })
    .max(Object.fromEntries(columns.map((column) => [column, db.raw(`octet_length(${column})`)])))
    .first();
  return columns.reduce((bytes, column) => bytes + Number(row?.[column] ?? 0), 0);
}

const pageOf = (row: PageRow): Page => ({
  id: row.id,
  leftPt: row.left_pt,
  topPt: row.top_pt,
  widthPt: row.width_pt,
  heightPt: row.height_pt,
  paper: readForm('paper', row.paper),
  sheet: row.sheet === null ? null : readForm('sheet', row.sheet),
  scale: row.scale === null ? null : readForm('scale', row.scale),
});

export const rowOfPage = (lesson: LessonId, position: number, { page, contents }: WrittenPage): PageRow => ({
  lesson_id: lesson,
  id: page.id,
  position,
  left_pt: page.leftPt,
  top_pt: page.topPt,
  width_pt: page.widthPt,
  height_pt: page.heightPt,
  paper: writeForm('paper', page.paper),
  sheet: page.sheet && writeForm('sheet', page.sheet),
  scale: page.scale && writeForm('scale', page.scale),
  pieces: Buffer.from(contents),
});
