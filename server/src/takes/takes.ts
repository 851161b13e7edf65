import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import { decodeTakePart } from '@kite-trail/core/formats/take-part';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import { assembleTake } from '@kite-trail/core/trail/assemble';
import { append } from '@kite-trail/core/trail/edit';
import type { Knex } from 'knex';
import { storeAsset } from '../assets/assets';
import type { LessonRow, TakePartRow, TakeRow } from '../database/rows';
import { conflict } from '../http/problem';
import { currentProgramme, editProgramme } from '../lessons/programmes';

/** Begins a take. To begin the same one again changes nothing. */
export async function beginTake(db: Knex, lesson: LessonRow, take: { id: TakeId; hasSound: boolean }): Promise<void> {
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
 * Ends a take: its parts become its sound and its marks, and it plays at the programme's end. To end it again changes
 * nothing. With `recover`, the unbroken run of parts that arrived is made do with.
 * @throws RequestProblem when parts are missing
 */
export async function endTake(
  db: Knex,
  lesson: LessonRow,
  take: TakeRow,
  { parts, recover }: { parts: number; recover: boolean },
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
  await db.transaction(async (trx) => {
    const marks = await storeAsset(trx, 'application/octet-stream', encodeMarks(assembled.marks));
    const sound = assembled.sound.length > 0 ? await storeAsset(trx, 'audio/ogg', assembled.sound) : null;
    await trx('takes').where({ id: take.id }).update({
      ended_at: new Date().toISOString(),
      length_samples: assembled.lengthSamples,
      marks_asset: marks,
      sound_asset: sound,
    });
    await trx('take_parts').where({ take_id: take.id }).delete();
    if (assembled.lengthSamples === 0) return;
    const programme = append(await currentProgramme(trx, lesson), {
      take: take.id,
      toSamples: assembled.lengthSamples,
    });
    await editProgramme(trx, lesson, programme);
    // What was changed since the take before is now in this one.
    await trx('lessons')
      .where({ id: lesson.id })
      .update({ between_marks: Buffer.from(encodeMarks([])), history: null });
  });
}
