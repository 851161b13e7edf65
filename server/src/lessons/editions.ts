import { editLesson as editBody } from '@kite-trail/core/contract/lesson';
import type { EditedFrom } from '@kite-trail/core/contract/edition';
import { readForm, writeForm, type FormName, type FormValue } from '@kite-trail/core/contract/forms';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import { NOTHING_EDITED, type Edition } from '@kite-trail/core/trail/edition';
import { programmeLength, rangeOf, segmentLength, takesTime, type Programme } from '@kite-trail/core/trail/programme';
import type { Knex } from 'knex';
import type { LessonRow, ProgrammeRow, TakeRow } from '../database/rows';
import { checked, parsedJson } from '../http/body';
import { badInput, conflict } from '../http/problem';

/** What an edit decides besides the programme, where it is kept, and in which form. */
const PARTS = [
  ['inkEdits', 'ink_edits', 'ink-edits'],
  ['chapters', 'chapters', 'chapters'],
  ['captions', 'captions', 'captions'],
  ['prompts', 'prompts', 'prompts'],
  ['sound', 'sound', 'sound'],
] as const satisfies readonly (readonly [keyof Edition, keyof ProgrammeRow, FormName])[];

type Part = (typeof PARTS)[number][1];

const rowsOf = (db: Knex, { id }: LessonRow) => db<ProgrammeRow>('programmes').where({ lesson_id: id });

/** The edition in force; nothing before the first take. */
export async function currentEdition(db: Knex, lesson: LessonRow): Promise<Edition> {
  const edition = { ...NOTHING_EDITED, programme: await currentProgramme(db, lesson) };
  for (const [part, column, form] of PARTS) {
    const kept = await keptPart(db, lesson, column);
    if (kept !== null) Object.assign(edition, { [part]: readForm(form, kept) });
  }
  return edition;
}

export const currentProgramme = (db: Knex, lesson: LessonRow): Promise<Programme> =>
  programmeOf(db, lesson, lesson.programme_n);

/** A part of the edition in force as it is kept: edits that do not change it do not keep it anew. */
async function keptPart(db: Knex, lesson: LessonRow, column: Part): Promise<string | null> {
  const row = await rowsOf(db, lesson)
    .where('n', '<=', lesson.programme_n)
    .whereNotNull(column)
    .orderBy('n', 'desc')
    .first(column);
  return row?.[column] ?? null;
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

/** An edition as it is kept. It is written by a thread where it is large. */
export interface WrittenEdition {
  programme: WrittenProgramme;
  /** Each in the form in which it is kept. */
  parts: Record<Part, string>;
}

interface WrittenProgramme {
  segments: string;
  lengthSamples: number;
  /** The takes it plays, and up to where. */
  plays: ReadonlyMap<TakeId, number>;
}

export function writeEdition(edition: Edition): WrittenEdition {
  const parts = PARTS.map(([part, column, form]) => [column, writeForm(form, edition[part] as FormValue<typeof form>)]);
  return {
    programme: writeProgramme(edition.programme),
    parts: Object.fromEntries(parts) as WrittenEdition['parts'],
  };
}

const writeProgramme = (programme: Programme): WrittenProgramme => ({
  segments: writeForm('programme', [...programme]),
  lengthSamples: programmeLength(programme),
  plays: playedBy(programme),
});

/** Reads an edit as it was sent, and writes it as it is kept. @throws RequestProblem when it is none */
export async function readEdit({ body }: { body: Uint8Array }): Promise<{ written: WrittenEdition; from: EditedFrom }> {
  const { edition, from } = checked(editBody, parsedJson(body));
  return { written: writeEdition(edition), from };
}

/**
 * Puts a new edition in force. Those that were undone are given up, as in any editor.
 * @param from the edit it was made from, where a window says so
 * @throws RequestProblem when it plays more of a take than there is, or another edit is in force than it was made from
 */
export async function keepEdition(
  db: Knex,
  lesson: LessonRow,
  { programme, parts }: WrittenEdition,
  from?: EditedFrom,
): Promise<void> {
  const changed: Partial<Record<Part, string>> = {};
  for (const [part, column, form] of PARTS) {
    const kept =
      (await keptPart(db, lesson, column)) ?? writeForm(form, NOTHING_EDITED[part] as FormValue<typeof form>);
    if (kept !== parts[column]) changed[column] = parts[column];
  }
  await insertEdit(db, lesson, { programme, parts: changed }, from);
}

/** Puts an edition in force. @throws RequestProblem as `keepEdition` */
export const editLesson = (db: Knex, lesson: LessonRow, edition: Edition): Promise<void> =>
  keepEdition(db, lesson, writeEdition(edition));

/** Puts another programme in force; all else stays as it is. @throws RequestProblem as `keepEdition` */
export const playInstead = (db: Knex, lesson: LessonRow, programme: Programme): Promise<void> =>
  insertEdit(db, lesson, { programme: writeProgramme(programme), parts: {} });

async function insertEdit(
  db: Knex,
  lesson: LessonRow,
  { programme, parts }: { programme: WrittenProgramme; parts: Partial<Record<Part, string>> },
  from?: EditedFrom,
): Promise<void> {
  await refuseUnrecorded(db, lesson, programme);
  const now = await refuseOtherThan(db, lesson, from);
  const n = lesson.programme_n + 1;
  await rowsOf(db, lesson).where('n', '>=', n).delete();
  await db('programmes').insert({
    lesson_id: lesson.id,
    n,
    segments: programme.segments,
    ...parts,
    length_samples: programme.lengthSamples,
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

function playedBy(programme: Programme): Map<TakeId, number> {
  const plays = new Map<TakeId, number>();
  const play = (take: TakeId, toSamples: number) => plays.set(take, Math.max(toSamples, plays.get(take) ?? 0));
  for (const segment of programme) {
    play(segment.take, rangeOf(segment).toSamples);
    const voice = takesTime(segment) ? segment.voice : null;
    if (voice) play(voice.take, voice.fromSamples + segmentLength(segment));
  }
  return plays;
}

async function refuseUnrecorded(db: Knex, lesson: LessonRow, { plays }: WrittenProgramme): Promise<void> {
  const takes = await db<TakeRow>('takes').where({ lesson_id: lesson.id }).whereNotNull('ended_at');
  const lengths = new Map(takes.map((take) => [take.id, Number(take.length_samples)]));
  for (const [take, toSamples] of plays) {
    if (toSamples > (lengths.get(take) ?? -1)) {
      throw badInput('This edit plays something that was never recorded. Open the lesson again to go on.');
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
