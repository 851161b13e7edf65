import { readForm, writeForm, type FormValue } from '@kite-trail/core/contract/forms';
import type { Version } from '@kite-trail/core/contract/edition';
import type { VersionId } from '@kite-trail/core/lesson/ids';
import { programmeLength } from '@kite-trail/core/trail/programme';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import type { LessonRow, VersionRow } from '../database/rows';
import { badInput, notFound } from '../http/problem';
import { currentEdition, editLesson } from './editions';

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

/** Keeps the edition in force by a name. @throws RequestProblem when nothing was recorded yet */
export async function keepVersion(db: Knex, lesson: LessonRow, name: string): Promise<void> {
  if (lesson.programme_n === 0) throw badInput('There is nothing to keep yet. Record something first.');
  const edition = await currentEdition(db, lesson);
  await db('versions').insert({
    id: nanoid() as VersionId,
    lesson_id: lesson.id,
    name,
    edition: writeForm('edition', edition as FormValue<'edition'>),
    length_samples: programmeLength(edition.programme),
    made_at: new Date().toISOString(),
  });
}

/** Puts a version in force, as an edit that can be undone. */
export async function useVersion(db: Knex, lesson: LessonRow, param: unknown): Promise<void> {
  await editLesson(db, lesson, readForm('edition', (await versionOf(db, lesson, param)).edition));
}

export async function dropVersion(db: Knex, lesson: LessonRow, param: unknown): Promise<void> {
  const { id } = await versionOf(db, lesson, param);
  await db('versions').where({ id }).delete();
}

async function versionOf(db: Knex, lesson: LessonRow, param: unknown): Promise<VersionRow> {
  const version = await db<VersionRow>('versions')
    .where({ lesson_id: lesson.id, id: String(param) as VersionId })
    .first();
  if (!version) throw notFound('version');
  return version;
}
