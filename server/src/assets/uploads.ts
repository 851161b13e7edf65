import { createHash } from 'node:crypto';
import { setImmediate } from 'node:timers/promises';
import { UPLOAD_PART_BYTES, uploadPartCount } from '@kite-trail/core/contract/upload';
import type { AssetId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { UploadPartRow } from '../database/rows';
import { badInput, conflict } from '../http/problem';
import { acceptedType, LARGEST_FILE_BYTES, tooLarge } from './accepted';

/** A day after it came, a part of a file that was never whole is given up. */
const GIVEN_UP_AFTER_MS = 24 * 3600 * 1000;
/** What a file is can be told from so much of it, also of a photograph with a long description. */
const HEAD_PARTS = 8;

/** A teacher's file that is on its way: what has come is kept, so that a slow line goes on where it broke off. */
const partsOf = (db: Knex, teacher: TeacherId, asset: AssetId) =>
  db<UploadPartRow>('upload_parts').where({ teacher_id: teacher, asset_id: asset });

/** The numbers of the parts that have come. */
export async function arrivedParts(db: Knex, teacher: TeacherId, asset: AssetId): Promise<number[]> {
  const rows = await partsOf(db, teacher, asset).orderBy('n').select('n');
  return rows.map(({ n }) => n);
}

const partsMissing = () => conflict('parts-missing', 'Parts of this file have not arrived yet.');
/** The name of a file without any bytes. */
const OF_NOTHING = createHash('sha256').digest('hex');

/** Whether a lesson of the teacher's has a file: whoever has it may have it once more, without sending it again. */
export async function hasFile(db: Knex, teacher: TeacherId, asset: AssetId): Promise<boolean> {
  const had = await db('lesson_assets')
    .join('lessons', 'lessons.id', 'lesson_assets.lesson_id')
    .where({ teacher_id: teacher, asset_id: asset })
    .first('asset_id');
  return had !== undefined;
}

/** Keeps a part; the same one may come again. @throws RequestProblem when the file would be too large */
export async function keepUploadPart(
  db: Knex,
  teacher: TeacherId,
  asset: AssetId,
  n: number,
  bytes: Buffer,
): Promise<void> {
  if (n >= uploadPartCount(LARGEST_FILE_BYTES)) throw tooLarge();
  const now = Date.now();
  await db('upload_parts')
    .where('came_at', '<', new Date(now - GIVEN_UP_AFTER_MS).toISOString())
    .delete();
  await db('upload_parts')
    .insert({ teacher_id: teacher, asset_id: asset, n, bytes, came_at: new Date(now).toISOString() })
    .onConflict(['teacher_id', 'asset_id', 'n'])
    .merge();
}

/** Forgets what has come of a file, such as before it is sent anew. */
export async function dropUpload(db: Knex, teacher: TeacherId, asset: AssetId): Promise<void> {
  await partsOf(db, teacher, asset).delete();
}

/**
 * Makes an asset of a file whose parts have come. They are read one by one: a large file is never in memory as a whole.
 * @param typeOf its media type by its beginning and its length; throws what is wrong with it
 * @returns its name
 * @throws RequestProblem when parts are missing, or it is another file than its name says
 */
export async function takeUpload(
  db: Knex,
  teacher: TeacherId,
  asset: AssetId,
  typeOf: (head: Uint8Array, sizeBytes: number) => string,
): Promise<AssetId> {
  const hash = createHash('sha256');
  const head: Buffer[] = [];
  let sizeBytes = 0;
  const count = (await arrivedParts(db, teacher, asset)).length;
  if (count === 0 && asset !== OF_NOTHING) throw partsMissing();
  for (let n = 0; n < count; n++) {
    const part = await partsOf(db, teacher, asset).where({ n }).first('bytes');
    const isAsLongAsItMust = n === count - 1 || part?.bytes.length === UPLOAD_PART_BYTES;
    if (!part || !isAsLongAsItMust) throw partsMissing();
    hash.update(part.bytes);
    if (n < HEAD_PARTS) head.push(part.bytes);
    sizeBytes += part.bytes.length;
    // Whoever else asks for something meanwhile has their turn.
    await setImmediate();
  }
  const mediaType = typeOf(Buffer.concat(head), sizeBytes);
  if (hash.digest('hex') !== asset) throw badInput('This file was damaged on its way. Try again.');
  const made = await db('assets')
    .insert({ id: asset, media_type: mediaType, size_bytes: sizeBytes, created_at: new Date().toISOString() })
    .onConflict('id')
    .ignore()
    .returning('id');
  if (made.length > 0) {
    const parts = partsOf(db, teacher, asset).select('asset_id', 'n', 'bytes');
    await db.into(db.raw('asset_chunks (asset_id, n, bytes)')).insert(parts);
  }
  await partsOf(db, teacher, asset).delete();
  return asset;
}

/**
 * Makes an asset of a file for lessons, whose parts have come, unless the teacher has it: it may have come for another lesson
 * meanwhile, or its answer have been lost.
 * @throws RequestProblem as `takeUpload`
 */
export async function takeFile(db: Knex, teacher: TeacherId, asset: AssetId): Promise<void> {
  // A teacher's files are taken one after the other, for the parts are there once.
  await db('teachers').where({ id: teacher }).forUpdate().first('id');
  if (!(await hasFile(db, teacher, asset))) await takeUpload(db, teacher, asset, acceptedType);
}
