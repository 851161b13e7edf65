import { readForm, writeForm, type FormValue } from '@kite-trail/core/contract/forms';
import { decodeMarks, encodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import { leftOver } from '@kite-trail/core/lesson/left-over';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { withoutTake, withTakeBack } from '@kite-trail/core/trail/edit';
import { placeInstead, placeTake, planInstead, type TakePlan } from '@kite-trail/core/trail/plan';
import { takesIn } from '@kite-trail/core/trail/programme';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import { storeAsset, type NamedBytes } from '../assets/assets';
import type { LessonChangesRow, LessonRow, TakePartRow, TakeRow } from '../database/rows';
import { conflict } from '../http/problem';
import { currentProgramme, playInstead, programmeOf } from '../lessons/editions';
import { lessonOf } from '../lessons/lessons';
import { gatherTake, type GatheredTake } from './gather';

/** Begins a take. To begin the same one again changes nothing. @throws RequestProblem when another lesson has it */
export async function beginTake(
  db: Knex,
  lesson: LessonRow,
  window: string,
  take: { id: TakeId; hasSound: boolean; plan: TakePlan; revision?: number },
): Promise<void> {
  await db('takes')
    .insert({
      id: take.id,
      lesson_id: lesson.id,
      has_sound: take.hasSound,
      started_at: new Date().toISOString(),
      length_samples: 0,
      plan: writeForm('plan', take.plan as FormValue<'plan'>),
      begun_revision: take.revision ?? null,
      window,
    })
    .onConflict('id')
    .ignore();
  const present = (await db<TakeRow>('takes').where({ id: take.id }).first())!;
  if (present.lesson_id !== lesson.id) throw conflict('take-taken', 'This recording belongs to another lesson.');
}

/**
 * Keeps a numbered part. The same part may come any number of times, also after the take it is in has ended.
 * @throws RequestProblem when another part with this number is there, or the take has ended without it
 */
export async function keepPart(db: Knex, take: TakeRow, n: number, bytes: Buffer): Promise<void> {
  if (take.ended_at) return refuseMoreThan(take, n + 1);
  await db('take_parts').insert({ take_id: take.id, n, bytes }).onConflict(['take_id', 'n']).ignore();
  const present = (await db<TakePartRow>('take_parts').where({ take_id: take.id, n }).first())!;
  if (!present.bytes.equals(bytes)) {
    throw conflict('other-part', 'Another window has already sent this part of the recording.');
  }
}

/** @throws RequestProblem when a take has ended with fewer parts */
function refuseMoreThan({ part_count }: TakeRow, parts: number): void {
  if (parts <= (part_count ?? 0)) return;
  throw conflict('take-ended', 'This recording has been ended already, without what was recorded after that.');
}

/** The numbers of the parts that are safe. */
export async function keptParts(db: Knex, take: TakeRow): Promise<number[]> {
  const rows = await db<TakePartRow>('take_parts').where({ take_id: take.id }).orderBy('n').select('n');
  return rows.map((row) => row.n);
}

/**
 * Ends a take: its parts become its sound and its marks, and it plays where it was planned to. Where the stretch it was
 * made for has gone meanwhile, it is kept but not played. To end it again changes nothing. With `recover`, the unbroken run
 * of parts that arrived is made do with.
 * @param found its parts, joined
 * @throws RequestProblem when parts are missing, or it has ended without some of them
 */
export async function endTake(
  db: Knex,
  lesson: LessonRow,
  take: TakeRow,
  { parts, recover, plan }: { parts: number; recover: boolean; plan?: TakePlan },
  found: GatheredTake,
): Promise<void> {
  if (take.ended_at) return refuseMoreThan(take, parts);
  const gathered = await gatheredNow(db, take, found, !recover);
  if (!recover && gathered.partCount < parts) {
    throw conflict('parts-missing', `${parts - gathered.partCount} parts of this recording have not arrived yet.`);
  }
  const beginning = take.kept_as === null ? null : await takeOf(db, take.kept_as);
  await finish(db, lesson, take, gathered, plan ?? planOf(take), beginning);
  await db('take_parts').where({ take_id: take.id }).delete();
}

/**
 * Makes a take of what has come of one that broke off on a device that is not here. Should that device come back, its take
 * goes on, and plays in the place of this one: both can be heard and chosen.
 */
export async function keepBeginning(db: Knex, lesson: LessonRow, take: TakeRow, found: GatheredTake): Promise<void> {
  if (take.ended_at) return;
  const gathered = await gatheredNow(db, take, found, false);
  const before = take.kept_as === null ? null : await takeOf(db, take.kept_as);
  if (gathered.partCount <= (before?.part_count ?? 0)) return;
  const beginning: TakeRow = { ...take, id: nanoid() as TakeId, kept_as: null };
  await db('takes').insert(beginning);
  await db('takes').where({ id: take.id }).update({ kept_as: beginning.id });
  await finish(db, lesson, beginning, gathered, planOf(take), before);
}

/** A take's parts, joined: as they were found, or anew where others have come since. */
async function gatheredNow(db: Knex, { id }: TakeRow, found: GatheredTake, isWhole: boolean): Promise<GatheredTake> {
  const counted = await db('take_parts').where({ take_id: id }).count({ count: '*' }).first();
  return Number(counted!.count) === found.seenParts ? found : gatherTake(db, { take: id, isWhole });
}

const takeOf = async (db: Knex, id: TakeId): Promise<TakeRow> => (await db<TakeRow>('takes').where({ id }).first())!;

const planOf = ({ plan }: TakeRow): TakePlan => (plan === null ? { kind: 'carry-on' } : readForm('plan', plan));

/** @param beginning the take that was made of this one's beginning, in the place of which it plays */
async function finish(
  db: Knex,
  lesson: LessonRow,
  take: TakeRow,
  { lengthSamples, marks, opening, sound, profile, partCount }: GatheredTake,
  plan: TakePlan,
  beginning: TakeRow | null,
): Promise<void> {
  const now = await lessonOf(db, lesson.id);
  const programme = await currentProgramme(db, now);
  const planned = { id: take.id, lengthSamples, plan };
  const other = beginning && {
    id: beginning.id,
    lengthSamples: Number(beginning.length_samples),
    plan: planOf(beginning),
  };
  const keptPlan = other ? planInstead(programme, plan, other) : plan;
  await db('takes')
    .where({ id: take.id })
    .update({
      ended_at: new Date().toISOString(),
      length_samples: lengthSamples,
      marks_asset: await storeAsset(db, 'application/octet-stream', marks),
      sound_asset: sound && (await storeAsset(db, 'audio/ogg', sound)),
      profile_asset: profile && (await storeProfile(db, profile)),
      plan: writeForm('plan', keptPlan as FormValue<'plan'>),
      part_count: partCount,
    });
  if (lengthSamples === 0) return;
  const placed = other ? placeInstead(programme, planned, other) : placeTake(programme, planned);
  if (placed) await playInstead(db, now, placed);
  if (plan.kind !== 'carry-on' || other) return;
  const waiting = decodeMarks(now.between_marks);
  const left = leftOver(waiting, decodeMarks(opening), await changedMeanwhile(db, take));
  await db('lessons')
    .where({ id: lesson.id })
    .update({ between_marks: Buffer.from(encodeMarks(left)), history: null });
}

/** What windows other than a take's have changed since it began. */
async function changedMeanwhile(db: Knex, { lesson_id, begun_revision, window }: TakeRow): Promise<Mark[]> {
  if (begun_revision === null || window === '') return [];
  const rows = await db<LessonChangesRow>('lesson_changes')
    .where({ lesson_id })
    .where('revision', '>', begun_revision)
    .whereNot({ window })
    .orderBy('revision');
  return rows.flatMap(({ marks }) => decodeMarks(marks));
}

/** Keeps what was heard of an ended take's voice. @throws RequestProblem before the end */
export async function keepProfile(db: Knex, take: TakeRow, heard: NamedBytes): Promise<void> {
  if (!take.ended_at) throw conflict('take-goes-on', 'This recording has not ended yet.');
  const asset = await storeProfile(db, heard);
  await db('takes').where({ id: take.id }).update({ profile_asset: asset });
}

const storeProfile = (db: Knex, bytes: NamedBytes) => storeAsset(db, 'application/octet-stream', bytes);

export async function nameTake(db: Knex, take: TakeRow, name: string): Promise<void> {
  await db('takes')
    .where({ id: take.id })
    .update({ name: name || null });
}

/** Puts a take into the bin, and out of the trail where it plays. It stays there, for older edits may play it. */
export async function binTake(db: Knex, lesson: LessonRow, take: TakeRow): Promise<void> {
  const now = await lessonOf(db, lesson.id);
  const programme = await currentProgramme(db, now);
  const plays = takesIn(programme).has(take.id);
  if (plays) await playInstead(db, now, withoutTake(programme, take.id));
  await db('takes')
    .where({ id: take.id })
    .update({ binned_at: new Date().toISOString(), binned_from: plays ? now.programme_n : null });
}

/** Takes a take out of the bin. Where it played when it was binned, it plays again. */
export async function unbinTake(db: Knex, lesson: LessonRow, take: TakeRow): Promise<void> {
  await db('takes').where({ id: take.id }).update({ binned_at: null, binned_from: null });
  const now = await lessonOf(db, lesson.id);
  const programme = await currentProgramme(db, now);
  if (take.binned_from === null || takesIn(programme).has(take.id)) return;
  const before = await programmeOf(db, now, take.binned_from);
  const back = withTakeBack(programme, before, take.id);
  if (takesIn(back).has(take.id)) await playInstead(db, now, back);
}
