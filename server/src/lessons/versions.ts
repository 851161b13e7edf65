import { readForm, writeForm, type FormValue } from '@kite-trail/core/contract/forms';
import type { EditedFrom, Version } from '@kite-trail/core/contract/edition';
import type { LessonId, VersionId } from '@kite-trail/core/lesson/ids';
import { programmeLength } from '@kite-trail/core/trail/programme';
import { isDeepStrictEqual } from 'node:util';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import type { LessonRow, VersionRow } from '../database/rows';
import { badInput, notFound } from '../http/problem';
import { currentEdit, currentEdition, keepEdition, writeEdition, type WrittenEdition } from './editions';
import { lessonOf } from './lessons';

/** Editions that were given a name, the newest first. */
export async function listVersions(db: Knex, lesson: LessonRow): Promise<Version[]> {
  const rows = await db<VersionRow>('versions').where({ lesson_id: lesson.id }).orderBy('made_at', 'desc');
  return rows.map(({ id, name, length_samples, made_at }) => ({
    id,
    name,
    lengthSamples: Number(length_samples),
    madeAt: made_at,
  }));
}

/** An edition as a version keeps it. */
export interface VersionText {
  /** The edit that is in force then. */
  of: EditedFrom;
  edition: string;
  lengthSamples: number;
}

/** Writes the edition in force as a version keeps it. */
export async function writeVersion(db: Knex, { lesson: id }: { lesson: LessonId }): Promise<VersionText> {
  const lesson = await lessonOf(db, id);
  const edition = await currentEdition(db, lesson);
  return {
    of: await currentEdit(db, lesson),
    edition: writeForm('edition', edition as FormValue<'edition'>),
    lengthSamples: programmeLength(edition.programme),
  };
}

/**
 * Keeps the edition in force by a name.
 * @param found how it is written, as it was a moment ago
 * @throws RequestProblem when nothing was recorded yet
 */
export async function keepVersion(db: Knex, lesson: LessonRow, name: string, found: VersionText): Promise<void> {
  if (lesson.programme_n === 0) throw badInput('There is nothing to keep yet. Record something first.');
  const isNow = isDeepStrictEqual(found.of, await currentEdit(db, lesson));
  const { edition, lengthSamples } = isNow ? found : await writeVersion(db, { lesson: lesson.id });
  await db('versions').insert({
    id: nanoid() as VersionId,
    lesson_id: lesson.id,
    name,
    edition,
    length_samples: lengthSamples,
    made_at: new Date().toISOString(),
  });
}

/** Reads a version, to be put in force. Versions never change. @throws RequestProblem when it is not there */
export async function readVersion(
  db: Knex,
  { lesson, version }: { lesson: LessonId; version: string },
): Promise<WrittenEdition> {
  return writeEdition(readForm('edition', (await versionOf(db, lesson, version)).edition));
}

/** Puts a version in force, as an edit that can be undone. @throws RequestProblem when it is not there any more */
export async function useVersion(db: Knex, lesson: LessonRow, version: string, found: WrittenEdition): Promise<void> {
  await versionOf(db, lesson.id, version);
  await keepEdition(db, lesson, found);
}

export async function dropVersion(db: Knex, lesson: LessonRow, version: string): Promise<void> {
  const { id } = await versionOf(db, lesson.id, version);
  await db('versions').where({ id }).delete();
}

async function versionOf(db: Knex, lesson: LessonId, id: string): Promise<VersionRow> {
  const version = await db<VersionRow>('versions')
    .where({ lesson_id: lesson, id: id as VersionId })
    .first();
  if (!version) throw notFound('version');
  return version;
}
