import { edition, type EditState } from '@kite-trail/core/contract/edition';
import { readForm, writeForm } from '@kite-trail/core/contract/forms';
import type { LessonDocument, LessonSummary, PageDocument, TakeSummary } from '@kite-trail/core/contract/lesson';
import { contentsOf, decodeContents, encodeMarks, pageStateFrom } from '@kite-trail/core/formats/marks-coding';
import type { LessonId, PageId, TeacherId } from '@kite-trail/core/lesson/ids';
import { wideSquaredPage, type Page } from '@kite-trail/core/lesson/page';
import type { PageState } from '@kite-trail/core/lesson/scene';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import type { LessonRow, LinkRow, PageRow, ProgrammeRow, PublicationRow, TakePartRow, TakeRow } from '../database/rows';
import { currentEdit, currentEdition } from './editions';
import { listVersions } from './versions';

const now = () => new Date().toISOString();

/** Makes a lesson with one squared page, or with the pages given. */
export async function makeLesson(
  db: Knex,
  teacher: TeacherId,
  { title, className }: { title: string; className: string },
  pages: readonly PageState[] = [{ page: wideSquaredPage(nanoid() as PageId), pieces: [] }],
): Promise<LessonRow> {
  const lesson: LessonRow = {
    id: nanoid() as LessonId,
    teacher_id: teacher,
    title,
    class_name: className,
    revision: 1,
    between_marks: Buffer.from(encodeMarks([])),
    programme_n: 0,
    created_at: now(),
    changed_at: now(),
    history: null,
  };
  await db('lessons').insert(lesson);
  for (const [position, { page, pieces }] of pages.entries()) {
    await db('pages').insert(rowOfPage(lesson.id, position, page, Buffer.from(contentsOf({ page, pieces }))));
  }
  return lesson;
}

/** The teacher's lessons, those changed last first. */
export async function listLessons(db: Knex, teacher: TeacherId): Promise<LessonSummary[]> {
  const rows = await db('lessons')
    .where({ teacher_id: teacher })
    .leftJoin('programmes', (join) =>
      join.on('programmes.lesson_id', 'lessons.id').andOn('programmes.n', 'lessons.programme_n'),
    )
    .orderBy('changed_at', 'desc')
    .select<(LessonRow & { length_samples: number | null })[]>('lessons.*', 'programmes.length_samples');
  const pageCounts = await countBy(db('pages'), rows);
  const linkCounts = await countBy(db('links').whereNull('withdrawn_at'), rows);
  return rows.map((row) => ({
    id: row.id,
    title: row.title,
    className: row.class_name,
    pageCount: pageCounts.get(row.id) ?? 0,
    lengthSamples: Number(row.length_samples ?? 0),
    shared: linkCounts.has(row.id),
    changedAt: row.changed_at,
    pictureVersion: Date.parse(row.changed_at),
  }));
}

async function countBy(query: Knex.QueryBuilder, lessons: readonly LessonRow[]): Promise<Map<LessonId, number>> {
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

/** All of a lesson that its teacher's screen needs. */
export async function describeLesson(db: Knex, lesson: LessonRow): Promise<LessonDocument> {
  const takes = await db<TakeRow>('takes')
    .where({ lesson_id: lesson.id })
    // What was made of a recording's beginning comes before the recording.
    .orderBy(['started_at', 'length_samples', 'id']);
  return {
    id: lesson.id,
    title: lesson.title,
    className: lesson.class_name,
    revision: lesson.revision,
    pages: (await readPageRows(db, lesson.id)).map((row): PageDocument => ({
      page: pageOf(row),
      pieces: row.pieces.toString('base64'),
    })),
    between: lesson.between_marks.toString('base64'),
    history: lesson.history?.toString('base64') ?? '',
    takes: await Promise.all(takes.map((take) => describeTake(db, take, takes))),
    versions: await listVersions(db, lesson),
    ...(await describeEdit(db, lesson)),
  };
}

/** The lesson's row as a request has left it. */
export const lessonNow = async (db: Knex, { id }: LessonRow): Promise<LessonRow> =>
  (await db<LessonRow>('lessons').where({ id }).first())!;

export const describeLessonNow = async (db: Knex, lesson: LessonRow): Promise<LessonDocument> =>
  describeLesson(db, await lessonNow(db, lesson));

/** The edition in force, and what can be done from there. */
export async function describeEdit(db: Knex, lesson: LessonRow): Promise<EditState> {
  const newest = await db<ProgrammeRow>('programmes').where({ lesson_id: lesson.id }).max({ n: 'n' }).first();
  return {
    edition: edition.parse(await currentEdition(db, lesson)),
    edit: await currentEdit(db, lesson),
    canUndoEdit: lesson.programme_n > 1,
    canRedoEdit: lesson.programme_n < Number((newest as { n: number | null } | undefined)?.n ?? 0),
    link: await describeLink(db, lesson),
  };
}

async function describeTake(db: Knex, take: TakeRow, all: readonly TakeRow[]): Promise<TakeSummary> {
  const parts = await db<TakePartRow>('take_parts').where({ take_id: take.id }).count({ count: '*' }).first();
  const beginning = all.find(({ id }) => id === take.kept_as);
  return {
    id: take.id,
    lengthSamples: Number(take.length_samples),
    hasSound: Boolean(take.has_sound),
    sound: take.sound_asset,
    marks: take.marks_asset,
    ended: take.ended_at !== null,
    hasProfile: take.profile_asset !== null,
    partCount: Number((parts as { count: number }).count) - (beginning?.part_count ?? 0),
    keptAs: take.kept_as,
    startedAt: take.started_at,
    plan: take.plan === null ? { kind: 'carry-on' } : readForm('plan', take.plan),
    name: take.name ?? '',
    isBinned: take.binned_at !== null,
  };
}

async function describeLink(db: Knex, lesson: LessonRow): Promise<LessonDocument['link']> {
  const link = await db<LinkRow>('links').where({ lesson_id: lesson.id }).whereNull('withdrawn_at').first();
  if (!link) return null;
  const publication = await db<PublicationRow>('publications').where({ id: link.publication_id }).first();
  const edit = await currentEdit(db, lesson);
  // After an undo, another edit may have come to have the same number.
  const isSame = publication!.programme_n === edit.n && publication!.made_at >= edit.madeAt;
  return { token: link.token, upToDate: isSame };
}

export async function renameLesson(
  db: Knex,
  lesson: LessonRow,
  { title, className }: { title: string; className: string },
): Promise<void> {
  await db('lessons').where({ id: lesson.id }).update({ title, class_name: className, changed_at: now() });
}

/** The lesson's pages as prepared. */
export async function readPages(db: Knex, lesson: LessonId): Promise<PageState[]> {
  return (await readPageRows(db, lesson)).map((row) => pageStateFrom(pageOf(row), decodeContents(row.pieces)));
}

const readPageRows = (db: Knex, lesson: LessonId) =>
  db<PageRow>('pages').where({ lesson_id: lesson }).orderBy('position');

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

export const rowOfPage = (lesson: LessonId, position: number, page: Page, pieces: Buffer): PageRow => ({
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
  pieces,
});
