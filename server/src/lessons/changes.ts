import { isDeepStrictEqual } from 'node:util';
import { markProblem } from '@kite-trail/core/contract/change';
import * as contract from '@kite-trail/core/contract/lesson';
import { decodeHistory } from '@kite-trail/core/formats/history-coding';
import { decodeMarks, encodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { AssetId, LessonId, PageId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { filesIn } from '@kite-trail/core/lesson/files';
import { overlaps } from '@kite-trail/core/lesson/overlap';
import { applyChanges, sceneOf, type PageState } from '@kite-trail/core/lesson/scene';
import type { Knex } from 'knex';
import type { LessonAssetRow, LessonChangesRow, LessonRow, PageRow } from '../database/rows';
import { checked, parsedJson } from '../http/body';
import { badInput, conflict } from '../http/problem';
import { readPages, rowOfPage, writtenPage } from './lessons';

/** Windows that are farther behind than this many changes have to read the lesson again. */
const CHANGES_KEPT = 1000;
const MOST_PAGES = 1000;

/** What is asked of `foldChanges`. */
export interface AskedChanges {
  lesson: LessonId;
  /** The window that made them. */
  window: string;
  /** JSON, as it was sent. */
  body: Uint8Array;
}

/** What changes make of a lesson. */
export interface FoldedChanges {
  /** To which state of the lesson they are folded in: where it is another one by now, they have to be folded in anew. */
  into: LessonState;
  /** Whether other windows have made changes meanwhile. */
  merged: boolean;
  marks: Uint8Array;
  history: Uint8Array;
  /** The files they name. */
  files: AssetId[];
  /** The pages that go, and those that come in the place of others; `null` where something is recorded. */
  pages: { gone: PageId[]; changed: PageRow[] } | null;
  /** What begins the next take; `null` where nothing is recorded. */
  between: Uint8Array | null;
}

/** By which it is known whether a lesson has been changed. */
export type LessonState = Pick<LessonRow, 'revision' | 'programme_n' | 'changed_at'>;

export const stateOf = ({ revision, programme_n, changed_at }: LessonState): LessonState => ({
  revision,
  programme_n,
  changed_at,
});

/**
 * Folds changes into a lesson: into its prepared pages, or, where something is recorded, into what begins the next take.
 * Changes by a window that is behind are merged, as long as they are not about what others have changed meanwhile. Nothing is
 * written.
 * @throws RequestProblem when they cannot be, or overlap with another window's; FormatError
 */
export async function foldChanges(db: Knex, { lesson: id, window, body }: AskedChanges): Promise<FoldedChanges> {
  const asked = checked(contract.changeLesson, parsedJson(body));
  const changes = decodeMarks(Buffer.from(asked.marks, 'base64'));
  changes.forEach(refuseWhatCannotBe);
  const history = Buffer.from(asked.history, 'base64');
  decodeHistory(history);
  const lesson = (await db<LessonRow>('lessons').where({ id }).first())!;
  const others = await changesOfOthers(db, lesson, asked.revision, window);
  refuseOverlap(changes, others);
  const isRecorded = lesson.programme_n > 0;
  return {
    into: stateOf(lesson),
    merged: others.length > 0,
    marks: encodeMarks(changes),
    history,
    files: [...new Set(changes.flatMap(filesIn).map(({ asset }) => asset))],
    pages: isRecorded ? null : await changedPages(db, id, changes),
    between: isRecorded
      ? encodeMarks([...decodeMarks(lesson.between_marks), ...changes.map((mark) => ({ ...mark, atSamples: 0 }))])
      : null,
  };
}

/**
 * Makes changes to a lesson.
 * @param lesson as it is now, held by this transaction
 * @param folded what they made of it a moment ago
 * @returns the new revision, and whether there was something to merge
 * @throws RequestProblem as `foldChanges`, and when they use a file the lesson does not have
 */
export async function changeLesson(
  db: Knex,
  teacher: TeacherId,
  lesson: LessonRow,
  asked: AskedChanges,
  folded: FoldedChanges,
): Promise<{ revision: number; merged: boolean }> {
  const isNow = isDeepStrictEqual(folded.into, stateOf(lesson));
  const { merged, marks, history, files, pages, between } = isNow ? folded : await foldChanges(db, asked);
  await refuseForeignFiles(db, lesson.id, files);
  if (pages) {
    await db('pages').where({ lesson_id: lesson.id }).whereIn('id', pages.gone).delete();
    for (const page of pages.changed) await db('pages').insert({ ...page, pieces: Buffer.from(page.pieces) });
  }
  if (between) {
    await db('lessons')
      .where({ id: lesson.id })
      .update({ between_marks: Buffer.from(between) });
  }
  const next = lesson.revision + 1;
  await db('lessons')
    .where({ id: lesson.id })
    .update({
      revision: next,
      history: Buffer.from(history),
      history_of: teacher,
      changed_at: new Date().toISOString(),
    });
  await db('lesson_changes').insert({
    lesson_id: lesson.id,
    revision: next,
    window: asked.window,
    marks: Buffer.from(marks),
  });
  await db('lesson_changes')
    .where({ lesson_id: lesson.id })
    .where('revision', '<=', next - CHANGES_KEPT)
    .delete();
  return { revision: next, merged };
}

/** A change that cannot be read here cannot be made to a page either: the window keeps it. */
function refuseWhatCannotBe(change: Mark): void {
  if (change.kind === 'unread') {
    throw badInput(
      'This server cannot read a change of yours: one of the two is newer. It is kept; update the server.',
    );
  }
  const problem = markProblem(change);
  if (problem) throw badInput(problem);
}

/**
 * What other windows have changed since a revision: a window's own changes follow one another.
 * @throws RequestProblem when that is no longer known
 */
async function changesOfOthers(
  db: Knex,
  lesson: LessonRow,
  revision: number,
  window: string,
): Promise<readonly Mark[]> {
  const rows = await db<LessonChangesRow>('lesson_changes')
    .where({ lesson_id: lesson.id })
    .where('revision', '>', revision);
  if (rows.length !== lesson.revision - revision) throw changedElsewhere();
  const others = rows.filter((row) => row.window === '' || row.window !== window);
  return others.flatMap((row) => decodeMarks(row.marks));
}

function refuseOverlap(changes: readonly Mark[], others: readonly Mark[]): void {
  if (changes.some((one) => others.some((other) => overlaps(one, other)))) throw changedElsewhere();
}

const changedElsewhere = () =>
  conflict(
    'changed-elsewhere',
    'This was changed in another window at the same time. What the other window did is shown now.',
  );

async function refuseForeignFiles(db: Knex, lesson: LessonId, files: readonly AssetId[]): Promise<void> {
  if (files.length === 0) return;
  const own = await db<LessonAssetRow>('lesson_assets')
    .where({ lesson_id: lesson })
    .whereIn('asset_id', [...files]);
  if (own.length < files.length)
    throw badInput('A picture or PDF has not arrived on the server yet. Bring it in again.');
}

/** Only pages that have changed are written. */
async function changedPages(
  db: Knex,
  lesson: LessonId,
  changes: readonly Mark[],
): Promise<{ gone: PageId[]; changed: PageRow[] }> {
  const before = await readPages(db, lesson);
  const lasting = changes.filter(({ kind }) => kind !== 'turn');
  const after = applyChanges(sceneOf(before), lasting).pages;
  if (after.length > MOST_PAGES) throw badInput(`A lesson has at most ${MOST_PAGES} pages.`);
  const placeOf = new Map(before.map((state, place) => [state, place]));
  const kept = new Set<PageState>(after.filter((state, place) => placeOf.get(state) === place));
  return {
    gone: before.filter((state) => !kept.has(state)).map(({ page }) => page.id),
    changed: [...after.entries()]
      .filter(([, state]) => !kept.has(state))
      .map(([place, state]) => rowOfPage(lesson, place, writtenPage(state))),
  };
}
