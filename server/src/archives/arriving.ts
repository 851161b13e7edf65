import {
  assetsOfArchived,
  broughtLesson,
  type ArchivedLesson,
  type ArchivedUse,
  type LessonWanted,
} from '@kite-trail/core/contract/archive';
import { writeForm, type FormValue } from '@kite-trail/core/contract/forms';
import { titleOf } from '@kite-trail/core/contract/lesson';
import { decodeContents, decodeMarks } from '@kite-trail/core/formats/marks-coding';
import { decodeHeard } from '@kite-trail/core/formats/profile-coding';
import type { AssetId, LessonId, TakeId, TeacherId, VersionId } from '@kite-trail/core/lesson/ids';
import { withTakesRenamed } from '@kite-trail/core/trail/renamed-takes';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import type { z } from 'zod';
import { acceptedType } from '../assets/accepted';
import { readAsset } from '../assets/assets';
import { assetsOf } from '../assets/ownership';
import { checkUpload, claimUpload, uploadedBytes, type CheckedUpload } from '../assets/uploads';
import { addToClasses } from '../classes/classes';
import type { LessonRow, TakeRow } from '../database/rows';
import { checked, parsedJson } from '../http/body';
import { badInput, conflict } from '../http/problem';
import { keepEdition, writeEdition } from '../lessons/editions';
import { makeLesson } from '../lessons/lessons';
import { workedOnBy } from '../together/worked-on';

type Brought = z.output<typeof broughtLesson>;

/** Reads an archived lesson as it was sent. @throws RequestProblem, FormatError when it is none, or damaged */
export async function readBrought({ body }: { body: Uint8Array }): Promise<Brought> {
  const brought = checked(broughtLesson, parsedJson(body));
  const { pages, between } = brought.lesson;
  for (const { pieces } of pages) decodeContents(Buffer.from(pieces, 'base64'));
  decodeMarks(Buffer.from(between, 'base64'));
  return brought;
}

/** Which of a lesson's assets a teacher lacks, and whether the lesson is here. */
export async function wantedOf(
  db: Knex,
  teacher: TeacherId,
  { lesson, assets }: { lesson: LessonId; assets: readonly AssetId[] },
): Promise<LessonWanted> {
  const own = await workedOnBy(db<LessonRow>('lessons').where({ id: lesson }), teacher).first();
  const held = await heldBy(db, teacher);
  const missing = [...new Set(assets)].filter((asset) => !held.has(asset));
  return { isHere: !own ? 'no' : own.binned_at === null ? 'yes' : 'in the bin', missing };
}

/** The assets that a teacher need not send, because something of theirs names them. */
export const heldBy = async (db: Knex, teacher: TeacherId): Promise<ReadonlySet<AssetId>> =>
  new Set(await assetsOf(db, teacher));

/** What has come of an asset before its lesson is made; `null` where its teacher has it. */
export type Arrived = CheckedUpload | null;

/**
 * Looks at an asset of an archived lesson: is all of it there, and is it what the lesson takes it for?
 * @param isHeld its teacher has it already
 * @throws RequestProblem, FormatError where it is something else
 */
export async function checkArrived(
  db: Knex,
  {
    teacher,
    asset,
    uses,
    isHeld,
  }: { teacher: TeacherId; asset: AssetId; uses: ReadonlySet<ArchivedUse>; isHeld: boolean },
): Promise<Arrived> {
  const found = isHeld ? null : await checkUpload(db, { teacher, asset });
  // What has not come whole is told when the lesson is made.
  if (found?.isWhole === false) return found;
  const isRead = uses.has('marks') || uses.has('profile');
  const arrived = async () => (isRead ? uploadedBytes(db, teacher, asset) : found!.head);
  const bytes = await (isHeld ? readAsset(db, asset) : arrived());
  for (const use of uses) TYPES[use](bytes, found?.sizeBytes ?? bytes.length);
  if (uses.has('marks')) decodeMarks(bytes);
  if (uses.has('profile')) decodeHeard(bytes);
  return found;
}

/** What an asset is kept as, by what it is there for. @throws RequestProblem where it cannot be there for that */
const TYPES: Record<ArchivedUse, (head: Uint8Array, sizeBytes: number) => string> = {
  marks: () => 'application/octet-stream',
  profile: () => 'application/octet-stream',
  sound: (head) => {
    if (Buffer.from(head.subarray(0, 4)).toString('latin1') !== 'OggS')
      throw badInput('A voice in this lesson is none.');
    return 'audio/ogg';
  },
  file: acceptedType,
  sheet: acceptedType,
};

/**
 * Makes a lesson of an archived one, all of it or nothing. It and its recordings keep their names where these are free, so that
 * the same archive is known again; a copy, and one whose names are somebody else's, gets others.
 * @param arrived its assets as they were looked at a moment ago
 * @throws RequestProblem where it is here already, or something of it is not
 */
export async function bringLesson(
  db: Knex,
  teacher: TeacherId,
  { lesson: sent, isCopy, classes }: Brought,
  arrived: ReadonlyMap<AssetId, Arrived>,
): Promise<LessonId> {
  // A teacher's files are taken one after the other, for the parts are there once.
  await db('teachers').where({ id: teacher }).forNoKeyUpdate().first('id');
  const here = await db<LessonRow>('lessons').where({ id: sent.id }).first();
  if (here?.teacher_id === teacher && !isCopy) throw conflict('here-already', 'This lesson is here already.');
  const held = await heldBy(db, teacher);
  for (const [asset, uses] of assetsOfArchived(sent)) {
    const isHeld = held.has(asset);
    const before = arrived.get(asset);
    // It may have come by another lesson meanwhile, or gone with one.
    const isAsBefore = before !== undefined && (before === null) === isHeld;
    const found = isAsBefore ? before : await checkArrived(db, { teacher, asset, uses, isHeld });
    const [first] = uses;
    if (found) await claimUpload(db, teacher, asset, found, TYPES[first]);
  }
  const isNew = !isCopy && !here && !(await hasTake(db, sent));
  const lesson = isNew ? sent : renamed(sent);
  const row = await makeLesson(
    db,
    teacher,
    isCopy ? titleOf(sent.title, ' (copy)') : sent.title,
    lesson.pages.map(({ page, pieces }) => ({ page, contents: Buffer.from(pieces, 'base64') })),
    isNew ? { id: sent.id } : {},
  );
  await db('lessons')
    .where({ id: row.id })
    .update({
      between_marks: Buffer.from(lesson.between, 'base64'),
      about: writeForm('about', lesson.about),
      source: lesson.source && writeForm('source', lesson.source),
      created_at: lesson.madeAt,
    });
  for (const { asset, name } of lesson.files) {
    await db('lesson_assets').insert({ lesson_id: row.id, asset_id: asset, file_name: name });
  }
  for (const { asset, pageIndex, picture } of lesson.sheets) {
    const sheet = { teacher_id: teacher, asset_id: asset, page_index: pageIndex, picture_asset: picture };
    await db('teacher_sheets').insert(sheet).onConflict(['teacher_id', 'asset_id', 'page_index']).ignore();
  }
  for (const take of lesson.takes) await db('takes').insert(rowOfTake(row.id, take));
  for (const { name, madeAt, lengthSamples, edition } of lesson.versions) {
    await db('versions').insert({
      ...{ id: nanoid() as VersionId, lesson_id: row.id, name, made_at: madeAt, length_samples: lengthSamples },
      edition: writeForm('edition', edition),
    });
  }
  if (lesson.edition.programme.length > 0) await keepEdition(db, row, writeEdition(lesson.edition));
  await addToClasses(db, row, classes);
  return row.id;
}

async function hasTake(db: Knex, { takes }: ArchivedLesson): Promise<boolean> {
  for (const { id } of takes) if (await db<TakeRow>('takes').where({ id }).first('id')) return true;
  return false;
}

function renamed(lesson: ArchivedLesson): ArchivedLesson {
  const names = new Map(lesson.takes.map(({ id }) => [id, nanoid(16) as TakeId]));
  const { edition, versions, takes } = lesson;
  return {
    ...lesson,
    takes: takes.map((take) => ({ ...take, id: names.get(take.id)!, plan: withTakesRenamed(take.plan, names) })),
    ...withTakesRenamed({ edition, versions }, names),
  };
}

function rowOfTake(lesson: LessonId, take: ArchivedLesson['takes'][number]): TakeRow {
  return {
    id: take.id,
    lesson_id: lesson,
    has_sound: take.hasSound,
    started_at: take.startedAt,
    ended_at: take.startedAt,
    length_samples: take.lengthSamples,
    sound_asset: take.sound,
    marks_asset: take.marks,
    profile_asset: take.profile,
    plan: writeForm('plan', take.plan as FormValue<'plan'>),
    name: take.name || null,
    binned_at: take.isBinned ? new Date().toISOString() : null,
    binned_from: null,
    begun_revision: null,
    window: '',
    part_count: 0,
    kept_as: null,
  };
}
