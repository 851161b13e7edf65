import { readForm, writeForm, type FormValue } from '@kite-trail/core/contract/forms';
import { decodeMarks, encodeMarks } from '@kite-trail/core/formats/marks-coding';
import { decodeHeard, encodeHeard } from '@kite-trail/core/formats/profile-coding';
import { decodeTakePart } from '@kite-trail/core/formats/take-part';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { assembleTake } from '@kite-trail/core/trail/assemble';
import { withoutTake, withTakeBack } from '@kite-trail/core/trail/edit';
import { placeTake, type TakePlan } from '@kite-trail/core/trail/plan';
import { takesIn } from '@kite-trail/core/trail/programme';
import type { Knex } from 'knex';
import { storeAsset } from '../assets/assets';
import type { LessonChangesRow, LessonRow, TakePartRow, TakeRow } from '../database/rows';
import { conflict } from '../http/problem';
import { currentEdition, editLesson, programmeOf } from '../lessons/editions';
import { lessonNow } from '../lessons/lessons';

/** Begins a take. To begin the same one again changes nothing. */
export async function beginTake(
  db: Knex,
  lesson: LessonRow,
  window: string,
  take: { id: TakeId; hasSound: boolean; plan: TakePlan; revision?: number },
): Promise<void> {
  const present = await db<TakeRow>('takes').where({ id: take.id }).first();
  if (present) {
    if (present.lesson_id === lesson.id) return;
    throw conflict('take-taken', 'This recording belongs to another lesson.');
  }
  await db('takes').insert({
    id: take.id,
    lesson_id: lesson.id,
    has_sound: take.hasSound,
    started_at: new Date().toISOString(),
    length_samples: 0,
    plan: writeForm('plan', take.plan as FormValue<'plan'>),
    begun_revision: take.revision ?? null,
    window,
  });
}

/**
 * Keeps a numbered part. The same part may come any number of times; of an ended take it is ignored.
 * @throws RequestProblem when another part with this number is there, FormatError when it is damaged
 */
export async function keepPart(db: Knex, take: TakeRow, n: number, bytes: Buffer): Promise<void> {
  decodeTakePart(bytes);
  if (take.ended_at) return;
  const present = await db<TakePartRow>('take_parts').where({ take_id: take.id, n }).first();
  if (!present) {
    await db('take_parts').insert({ take_id: take.id, n, bytes });
  } else if (!present.bytes.equals(bytes)) {
    throw conflict('other-part', 'Another window has already sent this part of the recording.');
  }
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
 * @throws RequestProblem when parts are missing
 */
export async function endTake(
  db: Knex,
  lesson: LessonRow,
  take: TakeRow,
  { parts, recover, plan }: { parts: number; recover: boolean; plan?: TakePlan },
): Promise<void> {
  if (take.ended_at) return;
  const rows = await db<TakePartRow>('take_parts').where({ take_id: take.id }).orderBy('n');
  const gap = rows.findIndex((row, i) => row.n !== i);
  const unbroken = gap < 0 ? rows : rows.slice(0, gap);
  if (!recover && unbroken.length < parts) {
    throw conflict('parts-missing', `${parts - unbroken.length} parts of this recording have not arrived yet.`);
  }
  const assembled = assembleTake(
    unbroken.map((row) => decodeTakePart(row.bytes)),
    !recover,
  );
  const { lengthSamples } = assembled;
  const planned: TakePlan = plan ?? (take.plan === null ? { kind: 'carry-on' } : readForm('plan', take.plan));
  await db.transaction(async (trx) => {
    const marks = await storeAsset(trx, 'application/octet-stream', encodeMarks(assembled.marks));
    const sound = assembled.sound.length > 0 ? await storeAsset(trx, 'audio/ogg', assembled.sound) : null;
    const profile = assembled.heard.peaks.length > 0 ? await storeProfile(trx, encodeHeard(assembled.heard)) : null;
    await trx('takes')
      .where({ id: take.id })
      .update({
        ended_at: new Date().toISOString(),
        length_samples: lengthSamples,
        marks_asset: marks,
        sound_asset: sound,
        profile_asset: profile,
        plan: writeForm('plan', planned as FormValue<'plan'>),
      });
    await trx('take_parts').where({ take_id: take.id }).delete();
    if (lengthSamples === 0) return;
    // Another take may have ended since this was asked for.
    const now = (await trx<LessonRow>('lessons').where({ id: lesson.id }).first())!;
    const edition = await currentEdition(trx, now);
    const placed = placeTake(edition.programme, { id: take.id, lengthSamples, plan: planned });
    if (placed) await editLesson(trx, now, { ...edition, programme: placed });
    if (planned.kind !== 'carry-on') return;
    // What was changed since the take before is now in this one, but for what others changed while it was recorded.
    const others = await changedMeanwhile(trx, take);
    await trx('lessons')
      .where({ id: lesson.id })
      .update({ between_marks: Buffer.from(encodeMarks(others)), history: null });
  });
}

/** What windows other than a take's have changed since it began. */
async function changedMeanwhile(db: Knex, { lesson_id, begun_revision, window }: TakeRow): Promise<Mark[]> {
  if (begun_revision === null || window === '') return [];
  const rows = await db<LessonChangesRow>('lesson_changes')
    .where({ lesson_id })
    .where('revision', '>', begun_revision)
    .whereNot({ window })
    .orderBy('revision');
  return rows.flatMap(({ marks }) => decodeMarks(marks)).map((mark) => ({ ...mark, atSamples: 0 }));
}

/** Keeps what was heard of an ended take's voice. @throws FormatError when it is damaged, RequestProblem before the end */
export async function keepProfile(db: Knex, take: TakeRow, bytes: Buffer): Promise<void> {
  decodeHeard(bytes);
  if (!take.ended_at) throw conflict('take-goes-on', 'This recording has not ended yet.');
  const asset = await storeProfile(db, bytes);
  await db('takes').where({ id: take.id }).update({ profile_asset: asset });
}

const storeProfile = (db: Knex, bytes: Uint8Array) => storeAsset(db, 'application/octet-stream', bytes);

export async function nameTake(db: Knex, take: TakeRow, name: string): Promise<void> {
  await db('takes')
    .where({ id: take.id })
    .update({ name: name || null });
}

/** Puts a take into the bin, and out of the trail where it plays. It stays there, for older edits may play it. */
export async function binTake(db: Knex, lesson: LessonRow, take: TakeRow): Promise<void> {
  await db.transaction(async (trx) => {
    const now = await lessonNow(trx, lesson);
    const edition = await currentEdition(trx, now);
    const plays = takesIn(edition.programme).has(take.id);
    if (plays) await editLesson(trx, now, { ...edition, programme: withoutTake(edition.programme, take.id) });
    await trx('takes')
      .where({ id: take.id })
      .update({ binned_at: new Date().toISOString(), binned_from: plays ? now.programme_n : null });
  });
}

/** Takes a take out of the bin. Where it played when it was binned, it plays again. */
export async function unbinTake(db: Knex, lesson: LessonRow, take: TakeRow): Promise<void> {
  await db.transaction(async (trx) => {
    await trx('takes').where({ id: take.id }).update({ binned_at: null, binned_from: null });
    const now = await lessonNow(trx, lesson);
    const edition = await currentEdition(trx, now);
    if (take.binned_from === null || takesIn(edition.programme).has(take.id)) return;
    const before = await programmeOf(trx, now, take.binned_from);
    const back = withTakeBack(edition.programme, before, take.id);
    if (takesIn(back).has(take.id)) await editLesson(trx, now, { ...edition, programme: back });
  });
}
