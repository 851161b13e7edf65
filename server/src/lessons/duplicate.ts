import { isDeepStrictEqual } from 'node:util';
import { readForm, writeForm } from '@kite-trail/core/contract/forms';
import type { LessonId, TakeId, VersionId } from '@kite-trail/core/lesson/ids';
import { withTakesRenamed } from '@kite-trail/core/trail/renamed-takes';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import { addToClasses, classesWith } from '../classes/classes';
import type { LessonRow, TakeRow, VersionRow } from '../database/rows';
import { stateOf, type LessonState } from './changes';
import { copiedTitle, copyFiles } from './copy';
import { currentEdition, keepEdition, writeEdition, type WrittenEdition } from './editions';
import { lessonOf, makeLesson, writtenPages } from './lessons';

/** A lesson's recordings, editions and plans under names of their own, ready to be another lesson's. */
export interface Duplicate {
  /** Of which state of the lesson. */
  of: LessonState;
  takes: TakeRow[];
  versions: VersionRow[];
  edition: WrittenEdition;
}

/** Gives all that was recorded in a lesson, and how it is edited, other names. */
export async function gatherDuplicate(db: Knex, { lesson: id }: { lesson: LessonId }): Promise<Duplicate> {
  const lesson = await lessonOf(db, id);
  const takes = await db<TakeRow>('takes').where({ lesson_id: id }).whereNotNull('ended_at').orderBy('started_at');
  const versions = await db<VersionRow>('versions').where({ lesson_id: id });
  const names = new Map(takes.map((take) => [take.id, nanoid(16) as TakeId]));
  const renamed = (form: 'plan' | 'edition', text: string) =>
    writeForm(form, withTakesRenamed(readForm(form, text), names));
  const edition = withTakesRenamed(await currentEdition(db, lesson), names);
  return {
    of: stateOf(lesson),
    takes: takes.map((take) => ({
      ...take,
      id: names.get(take.id)!,
      plan: take.plan && renamed('plan', take.plan),
      // Which edit it was binned from, and what was made of its beginning, are of the other lesson's past.
      binned_from: null,
      kept_as: null,
    })),
    versions: versions.map((one) => ({
      ...one,
      id: nanoid() as VersionId,
      edition: renamed('edition', one.edition),
    })),
    edition: writeEdition(edition),
  };
}

/**
 * A lesson that is the same as another one: pages, recordings, edits, named versions and what is said about it. Its links, and what can
 * be undone, stay with the other one.
 * @param found what `gatherDuplicate` made of it a moment ago
 */
export async function duplicateLesson(db: Knex, lesson: LessonRow, found: Duplicate): Promise<LessonRow> {
  const isNow = isDeepStrictEqual(found.of, stateOf(lesson));
  const { takes, versions, edition } = isNow ? found : await gatherDuplicate(db, { lesson: lesson.id });
  const copy = await makeLesson(db, lesson.teacher_id, copiedTitle(lesson), await writtenPages(db, lesson.id));
  const { between_marks, about } = lesson;
  await db('lessons').where({ id: copy.id }).update({ between_marks, about });
  await copyFiles(db, lesson, copy);
  const own = { lesson_id: copy.id };
  for (const take of takes) await db('takes').insert({ ...take, ...own });
  for (const version of versions) await db('versions').insert({ ...version, ...own });
  if (lesson.programme_n > 0) await keepEdition(db, copy, edition);
  await addToClasses(db, copy, await classesWith(db, lesson.id));
  return copy;
}
