import { isDeepStrictEqual } from 'node:util';
import { readForm, writeForm } from '@kite-trail/core/contract/forms';
import { decodeMarks, encodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { LessonId, TakeId, TeacherId, VersionId } from '@kite-trail/core/lesson/ids';
import type { Edition } from '@kite-trail/core/trail/edition';
import { giveAway } from '@kite-trail/core/trail/given-away';
import { withTakesRenamed } from '@kite-trail/core/trail/renamed-takes';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import { named, readAsset, storeAsset, type NamedBytes } from '../assets/assets';
import { lendSheets } from '../assets/lesson-files';
import { addToClasses, classesWith } from '../classes/classes';
import { lendTo } from '../together/together';
import type { LessonRow, TakeRow, TeacherRow, VersionRow } from '../database/rows';
import { stateOf, type LessonState } from './changes';
import { copiedTitle, copyFiles } from './copy';
import { currentEdition, keepEdition, writeEdition, type WrittenEdition } from './editions';
import { aboutOf, lessonOf, makeLesson, writtenPages } from './lessons';

/** A lesson's recordings, editions and plans under names of their own, ready to be another lesson's. */
export interface Duplicate {
  /** Of which state of the lesson. */
  of: LessonState;
  takes: TakeRow[];
  versions: VersionRow[];
  edition: WrittenEdition;
  /** Marks of takes that are not the lesson's own. */
  marks: NamedBytes[];
}

interface Recorded {
  lesson: LessonRow;
  takes: TakeRow[];
  versions: VersionRow[];
  edition: Edition;
}

/** Gives all that was recorded in a lesson, and how it is edited, other names. */
export async function gatherDuplicate(db: Knex, { lesson }: { lesson: LessonId }): Promise<Duplicate> {
  return { ...renamed(await recordedIn(db, lesson)), marks: [] };
}

/**
 * As `gatherDuplicate`, without what was thrown away and what was only tried: that is nobody else's. Of a take that made pages which
 * others write on, those pages are left.
 */
export async function gatherForOthers(db: Knex, { lesson: id }: { lesson: LessonId }): Promise<Duplicate> {
  const { lesson, takes, edition } = await recordedIn(db, id);
  const binned = takes.filter(({ binned_at, marks_asset }) => binned_at !== null && marks_asset !== null);
  const written = await Promise.all(binned.map((take) => readAsset(db, take.marks_asset!)));
  const given = giveAway(edition, new Map(binned.map((take, i) => [take.id, decodeMarks(written[i])])));
  const marks = new Map([...given.hollow].map(([take, pages]) => [take, named(encodeMarks([...pages]))]));
  const shown = takes
    .filter(({ id: take }) => !given.kept.has(take))
    .map((take): TakeRow => {
      const pages = marks.get(take.id);
      return pages ? { ...take, ...HOLLOW, marks_asset: pages.id } : take;
    });
  return {
    ...renamed({ lesson, takes: shown, versions: [], edition: given.edition }),
    marks: [...marks.values()],
  };
}

const HOLLOW = { name: null, has_sound: false, sound_asset: null, profile_asset: null };

async function recordedIn(db: Knex, id: LessonId): Promise<Recorded> {
  const lesson = await lessonOf(db, id);
  return {
    lesson,
    takes: await db<TakeRow>('takes').where({ lesson_id: id }).whereNotNull('ended_at').orderBy('started_at'),
    versions: await db<VersionRow>('versions').where({ lesson_id: id }),
    edition: await currentEdition(db, lesson),
  };
}

function renamed({ lesson, takes, versions, edition }: Recorded): Omit<Duplicate, 'marks'> {
  const names = new Map(takes.map((take) => [take.id, nanoid(16) as TakeId]));
  const written = (form: 'plan' | 'edition', text: string) =>
    writeForm(form, withTakesRenamed(readForm(form, text), names));
  return {
    of: stateOf(lesson),
    takes: takes.map((take) => ({
      ...take,
      id: names.get(take.id)!,
      plan: take.plan && written('plan', take.plan),
      // On which pages it began, where it played when it was binned, and what was made of its beginning are the other lesson's past.
      begun_revision: null,
      binned_from: null,
      kept_as: null,
    })),
    versions: versions.map((one) => ({
      ...one,
      id: nanoid() as VersionId,
      edition: written('edition', one.edition),
    })),
    edition: writeEdition(withTakesRenamed(edition, names)),
  };
}

/** A lesson of a teacher's that is the same as another one they work on, in the same classes. @param found what `gatherDuplicate` made of it a moment ago */
export async function duplicateLesson(
  db: Knex,
  teacher: TeacherId,
  lesson: LessonRow,
  found: Duplicate,
): Promise<LessonRow> {
  const fresh = isStillSo(lesson, found) ? found : await gatherDuplicate(db, { lesson: lesson.id });
  const copy = await duplicateFor(db, teacher, lesson, copiedTitle(lesson), fresh);
  await lendTo(db, lesson, teacher);
  await addToClasses(db, copy, await classesWith(db, teacher, lesson.id));
  return copy;
}

/** The same lesson as another teacher's, which names the one it is from. @param found what `gatherForOthers` made of it a moment ago */
export async function takeOver(db: Knex, teacher: TeacherRow, lesson: LessonRow, found: Duplicate): Promise<LessonRow> {
  const owner = (await db<TeacherRow>('teachers').where({ id: lesson.teacher_id }).first())!;
  const fresh = isStillSo(lesson, found) ? found : await gatherForOthers(db, { lesson: lesson.id });
  const copy = await duplicateFor(db, teacher.id, lesson, lesson.title, fresh);
  const source = { teacher: owner.name, title: lesson.title, licence: aboutOf(lesson).licence };
  await db('lessons')
    .where({ id: copy.id })
    .update({ source: writeForm('source', source) });
  await lendSheets(db, lesson.id, owner.id, teacher.id);
  return copy;
}

const isStillSo = (lesson: LessonRow, found: Duplicate): boolean => isDeepStrictEqual(found.of, stateOf(lesson));

/** A student's work as it is handed in, which is its teacher's from then on. @param found what `gatherForOthers` made of it a moment ago */
export async function handedIn(db: Knex, lesson: LessonRow, title: string, found: Duplicate): Promise<LessonRow> {
  const fresh = isStillSo(lesson, found) ? found : await gatherForOthers(db, { lesson: lesson.id });
  return duplicateFor(db, lesson.teacher_id, lesson, title, fresh, 'task');
}

/** Pages, recordings, edits, named versions and what is said about it. Links, and what can be undone, stay with the other lesson. */
async function duplicateFor(
  db: Knex,
  teacher: TeacherId,
  lesson: LessonRow,
  title: string,
  { takes, versions, edition, marks }: Duplicate,
  aside: LessonRow['aside'] = null,
): Promise<LessonRow> {
  const copy = await makeLesson(db, teacher, title, await writtenPages(db, lesson.id), { aside });
  const { between_marks, about, source } = lesson;
  await db('lessons').where({ id: copy.id }).update({ between_marks, about, source });
  await copyFiles(db, lesson, copy);
  const own = { lesson_id: copy.id };
  for (const bytes of marks) await storeAsset(db, 'application/octet-stream', bytes);
  for (const take of takes) await db('takes').insert({ ...take, ...own });
  for (const version of versions) await db('versions').insert({ ...version, ...own });
  if (lesson.programme_n > 0) await keepEdition(db, copy, edition);
  return copy;
}
