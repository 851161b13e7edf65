import type { EditedFrom } from '@kite-trail/core/contract/edition';
import { readForm, writeForm, type FormName, type FormValue } from '@kite-trail/core/contract/forms';
import { NOTHING_EDITED, type Edition } from '@kite-trail/core/trail/edition';
import { programmeLength, rangeOf, segmentLength, takesTime, type Programme } from '@kite-trail/core/trail/programme';
import equal from 'fast-deep-equal';
import type { Knex } from 'knex';
import type { LessonRow, ProgrammeRow, TakeRow } from '../database/rows';
import { badInput, conflict } from '../http/problem';

/** What an edit decides besides the programme, where it is kept, and in which form. */
const PARTS = [
  ['inkEdits', 'ink_edits', 'ink-edits'],
  ['chapters', 'chapters', 'chapters'],
  ['captions', 'captions', 'captions'],
  ['sound', 'sound', 'sound'],
] as const satisfies readonly (readonly [keyof Edition, keyof ProgrammeRow, FormName])[];

const rowsOf = (db: Knex, { id }: LessonRow) => db<ProgrammeRow>('programmes').where({ lesson_id: id });

/** The edition in force; nothing before the first take. */
export async function currentEdition(db: Knex, lesson: LessonRow): Promise<Edition> {
  const row = await rowsOf(db, lesson).where({ n: lesson.programme_n }).first();
  const edition = { ...NOTHING_EDITED, programme: row ? readForm('programme', row.segments) : [] };
  for (const [part, column, form] of PARTS) {
    const changed = await rowsOf(db, lesson)
      .where('n', '<=', lesson.programme_n)
      .whereNotNull(column)
      .orderBy('n', 'desc')
      .first();
    if (changed) Object.assign(edition, { [part]: readForm(form, changed[column]!) });
  }
  return edition;
}

/** The programme of an edit; nothing where that is gone. */
export async function programmeOf(db: Knex, lesson: LessonRow, n: number): Promise<Programme> {
  const row = await rowsOf(db, lesson).where({ n }).first();
  return row ? readForm('programme', row.segments) : [];
}

/** The edit in force. */
export async function currentEdit(db: Knex, lesson: LessonRow): Promise<EditedFrom> {
  const row = await rowsOf(db, lesson).where({ n: lesson.programme_n }).first();
  return { n: lesson.programme_n, madeAt: row?.made_at ?? '' };
}

/**
 * Puts a new edition in force. Those that were undone are given up, as in any editor.
 * @param from the edit it was made from, where a window says so
 * @throws RequestProblem when it plays more of a take than there is, or another edit is in force than it was made from
 */
export async function editLesson(db: Knex, lesson: LessonRow, edition: Edition, from?: EditedFrom): Promise<void> {
  await refuseUnrecorded(db, lesson, edition.programme);
  const now = await refuseOtherThan(db, lesson, from);
  const before = await currentEdition(db, lesson);
  const n = lesson.programme_n + 1;
  await rowsOf(db, lesson).where('n', '>=', n).delete();
  const parts = PARTS.map(([part, column, form]) => {
    const isAsBefore = equal(edition[part], before[part]);
    return [column, isAsBefore ? null : writeForm(form, edition[part] as FormValue<typeof form>)];
  });
  await db('programmes').insert({
    lesson_id: lesson.id,
    n,
    segments: writeForm('programme', [...edition.programme]),
    ...Object.fromEntries(parts),
    length_samples: programmeLength(edition.programme),
    made_at: laterThan(now.madeAt),
  });
  await goTo(db, lesson, n);
}

/** @returns the edit in force. @throws RequestProblem when it is another one than a window says */
async function refuseOtherThan(db: Knex, lesson: LessonRow, from?: EditedFrom): Promise<EditedFrom> {
  const now = await currentEdit(db, lesson);
  if (from && (from.n !== now.n || from.madeAt !== now.madeAt)) throw changedElsewhere();
  return now;
}

/** Now, but never the moment of the edit before: an edit is known by its number and its moment. */
function laterThan(madeAt: string): string {
  const before = madeAt === '' ? 0 : Date.parse(madeAt);
  return new Date(Math.max(Date.now(), before + 1)).toISOString();
}

async function refuseUnrecorded(db: Knex, lesson: LessonRow, programme: Programme): Promise<void> {
  const takes = await db<TakeRow>('takes').where({ lesson_id: lesson.id }).whereNotNull('ended_at');
  const lengths = new Map(takes.map((take) => [take.id, Number(take.length_samples)]));
  for (const segment of programme) {
    const shown = { take: segment.take, toSamples: rangeOf(segment).toSamples };
    const voice = takesTime(segment) ? segment.voice : null;
    const spoken = voice && { take: voice.take, toSamples: voice.fromSamples + segmentLength(segment) };
    for (const played of spoken ? [shown, spoken] : [shown]) {
      if (played.toSamples > (lengths.get(played.take) ?? -1)) {
        throw badInput('This edit plays something that was never recorded. Open the lesson again to go on.');
      }
    }
  }
}

/**
 * Goes one edit back or on.
 * @param from the edit in force, where a window says so
 * @throws RequestProblem when there is none, or another edit is in force
 */
export async function stepEdits(db: Knex, lesson: LessonRow, step: -1 | 1, from?: EditedFrom): Promise<void> {
  await refuseOtherThan(db, lesson, from);
  const n = lesson.programme_n + step;
  if (!(await rowsOf(db, lesson).where({ n }).first())) {
    throw conflict('no-more-edits', step < 0 ? 'There is no edit to undo.' : 'There is no edit to redo.');
  }
  await goTo(db, lesson, n);
}

async function goTo(db: Knex, lesson: LessonRow, n: number): Promise<void> {
  const moved = await db('lessons')
    .where({ id: lesson.id, programme_n: lesson.programme_n })
    .update({ programme_n: n, changed_at: new Date().toISOString() });
  if (moved === 0) throw changedElsewhere();
}

const changedElsewhere = () =>
  conflict('changed-elsewhere', 'This lesson was edited in another window. What the other window did is shown now.');
