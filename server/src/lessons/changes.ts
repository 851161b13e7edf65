import type { z } from 'zod';
import { markProblem } from '@kite-trail/core/contract/change';
import type * as contract from '@kite-trail/core/contract/lesson';
import { decodeHistory } from '@kite-trail/core/formats/history-coding';
import { contentsOf, decodeMarks, encodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { filesIn } from '@kite-trail/core/lesson/files';
import { overlaps } from '@kite-trail/core/lesson/overlap';
import { applyChange, sceneOf, type PageState } from '@kite-trail/core/lesson/scene';
import type { Knex } from 'knex';
import type { LessonAssetRow, LessonChangesRow, LessonRow } from '../database/rows';
import { badInput, conflict } from '../http/problem';
import { readPages, rowOfPage } from './lessons';

/** Windows that are farther behind than this many changes have to read the lesson again. */
const CHANGES_KEPT = 1000;
const MOST_PAGES = 1000;

/**
 * Makes changes to a lesson: to its prepared pages, or, where something is recorded, to what begins the next take.
 * Changes by a window that is behind are merged, as long as they are not about what others have changed meanwhile.
 * @param window the one that made them
 * @returns the new revision, and whether there was something to merge
 * @throws RequestProblem when they overlap with another window's, or use a file the lesson does not have; FormatError
 */
export async function changeLesson(
  db: Knex,
  id: LessonId,
  window: string,
  { revision, marks, history }: z.output<typeof contract.changeLesson>,
): Promise<{ revision: number; merged: boolean }> {
  const changes = decodeMarks(Buffer.from(marks, 'base64'));
  changes.forEach(refuseWhatCannotBe);
  const historyBytes = Buffer.from(history, 'base64');
  decodeHistory(historyBytes);
  const lesson = (await db<LessonRow>('lessons').where({ id }).first())!;
  const others = await changesOfOthers(db, lesson, revision, window);
  refuseOverlap(changes, others);
  await refuseForeignAssets(db, id, changes);
  if (lesson.programme_n === 0) await changePages(db, id, changes);
  else await changeBetween(db, lesson, changes);
  const next = lesson.revision + 1;
  const updated = await db('lessons')
    .where({ id, revision: lesson.revision })
    .update({ revision: next, history: historyBytes, changed_at: new Date().toISOString() });
  if (updated === 0) throw changedElsewhere();
  await db('lesson_changes').insert({
    lesson_id: id,
    revision: next,
    window,
    marks: Buffer.from(encodeMarks(changes)),
  });
  await db('lesson_changes')
    .where({ lesson_id: id })
    .where('revision', '<=', next - CHANGES_KEPT)
    .delete();
  return { revision: next, merged: others.length > 0 };
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

async function refuseForeignAssets(db: Knex, lesson: LessonId, changes: readonly Mark[]): Promise<void> {
  const used = new Set(changes.flatMap(filesIn).map(({ asset }) => asset));
  if (used.size === 0) return;
  const own = await db<LessonAssetRow>('lesson_assets')
    .where({ lesson_id: lesson })
    .whereIn('asset_id', [...used]);
  if (own.length < used.size) throw badInput('A picture or PDF has not arrived on the server yet. Bring it in again.');
}

/** Only pages that have changed are written. */
async function changePages(db: Knex, lesson: LessonId, changes: readonly Mark[]): Promise<void> {
  const before = await readPages(db, lesson);
  const after = changes.filter(({ kind }) => kind !== 'turn').reduce(applyChange, sceneOf(before)).pages;
  if (after.length > MOST_PAGES) throw badInput(`A lesson has at most ${MOST_PAGES} pages.`);
  const placeOf = new Map(before.map((state, place) => [state, place]));
  const kept = new Set<PageState>(after.filter((state, place) => placeOf.get(state) === place));
  const gone = before.filter((state) => !kept.has(state)).map(({ page }) => page.id);
  await db('pages').where({ lesson_id: lesson }).whereIn('id', gone).delete();
  for (const [position, state] of after.entries()) {
    if (kept.has(state)) continue;
    await db('pages').insert(rowOfPage(lesson, position, state.page, Buffer.from(contentsOf(state))));
  }
}

async function changeBetween(db: Knex, lesson: LessonRow, changes: readonly Mark[]): Promise<void> {
  const between = [...decodeMarks(lesson.between_marks), ...changes.map((mark) => ({ ...mark, atSamples: 0 }))];
  await db('lessons')
    .where({ id: lesson.id })
    .update({ between_marks: Buffer.from(encodeMarks(between)) });
}
