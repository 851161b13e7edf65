import { createHash } from 'node:crypto';
import { LARGEST_UPLOAD_BYTES, UPLOAD_PART_BYTES, uploadPartCount } from '@kite-trail/core/contract/upload';
import type { AssetId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import type { AssetChunkRow, UploadRow } from '../database/rows';
import type { Writer } from '../http/callers';
import { badInput, conflict, RequestProblem } from '../http/problem';
import { readAsset } from './assets';
import { acceptedType } from './accepted';

/** A day after it came last, a file that was never whole is given up. */
const GIVEN_UP_AFTER_MS = 24 * 3600 * 1000;
/** What a file is can be told from so much of it, also of a photograph with a long description. */
const HEAD_PARTS = 8;
/** The name of a file without any bytes. */
const OF_NOTHING = createHash('sha256').digest('hex');

/**
 * A teacher's file that is on its way. What has come of it is kept as the chunks of an asset without a name, so that a slow line
 * goes on where it broke off, and nothing is copied when all of it is there.
 */
const uploadOf = (db: Knex, teacher: TeacherId, asset: AssetId) =>
  db<UploadRow>('uploads').where({ teacher_id: teacher, asset_id: asset });

/** The numbers of the parts that have come. */
export async function arrivedParts(db: Knex, teacher: TeacherId, asset: AssetId): Promise<number[]> {
  const upload = await uploadOf(db, teacher, asset).first();
  if (!upload) return [];
  return db<AssetChunkRow>('asset_chunks').where({ asset_id: upload.chunks_of }).orderBy('n').pluck('n');
}

/**
 * Whether a lesson of the teacher's, or a student's own work, has a file: whoever has it may have it once more, without sending it
 * again.
 */
export async function hasFile(db: Knex, { teacher, student }: Writer, asset: AssetId): Promise<boolean> {
  const had = db('lesson_assets')
    .join('lessons', 'lessons.id', 'lesson_assets.lesson_id')
    .where({ teacher_id: teacher.id, asset_id: asset });
  if (student) had.join('replies', 'replies.lesson_id', 'lessons.id').where({ student_id: student.id });
  return (await had.first('asset_id')) !== undefined;
}

/** Keeps a part; the same one may come again. @throws RequestProblem when the file would be too large */
export async function keepUploadPart(
  db: Knex,
  teacher: TeacherId,
  asset: AssetId,
  n: number,
  bytes: Buffer,
): Promise<void> {
  if (n >= uploadPartCount(LARGEST_UPLOAD_BYTES)) {
    throw new RequestProblem(413, 'too-large', 'This file is larger than any the school takes.');
  }
  const { chunks_of } = (await uploadOf(db, teacher, asset).first()) ?? (await begin(db, teacher, asset));
  // Whoever has looked at the parts meanwhile has to look again.
  await uploadOf(db, teacher, asset).update({ came_at: new Date().toISOString() }).increment('changes', 1);
  await db('asset_chunks').insert({ asset_id: chunks_of, n, bytes }).onConflict(['asset_id', 'n']).merge();
}

async function begin(db: Knex, teacher: TeacherId, asset: AssetId): Promise<UploadRow> {
  // Parts may come at once: a file is begun by one of them.
  await db('teachers').where({ id: teacher }).forNoKeyUpdate().first('id');
  const begun = await uploadOf(db, teacher, asset).first();
  if (begun) return begun;
  const now = Date.now();
  const old = await db<UploadRow>('uploads').where('came_at', '<', new Date(now - GIVEN_UP_AFTER_MS).toISOString());
  for (const one of old) await drop(db, one);
  const chunks_of = `upload-${nanoid()}` as AssetId;
  const came_at = new Date(now).toISOString();
  await db('assets').insert({ id: chunks_of, media_type: '', size_bytes: 0, created_at: came_at });
  const upload: UploadRow = { teacher_id: teacher, asset_id: asset, chunks_of, changes: 0, came_at };
  await db('uploads').insert(upload);
  return upload;
}

/** Forgets what has come of a file, unless it has gone on, or become an asset, since it was looked at. */
async function drop(db: Knex, { teacher_id, asset_id, chunks_of, changes }: UploadRow): Promise<void> {
  const dropped = await uploadOf(db, teacher_id, asset_id).where({ chunks_of, changes }).delete();
  if (dropped > 0) await db('assets').where({ id: chunks_of }).delete();
}

/** Forgets what has come of a file, such as before it is sent anew. */
export async function dropUpload(db: Knex, teacher: TeacherId, asset: AssetId): Promise<void> {
  const upload = await uploadOf(db, teacher, asset).first();
  if (upload) await drop(db, upload);
}

/** All that has come of a file. */
export async function uploadedBytes(db: Knex, teacher: TeacherId, asset: AssetId): Promise<Buffer> {
  const upload = await uploadOf(db, teacher, asset).first();
  return upload ? readAsset(db, upload.chunks_of) : Buffer.alloc(0);
}

/** What a file's parts are together. */
export interface CheckedUpload {
  /** Where other parts have come since, this is not the file any more. */
  seen: Pick<UploadRow, 'chunks_of' | 'changes'> | null;
  isWhole: boolean;
  hash: string;
  sizeBytes: number;
  head: Uint8Array;
}

/** Reads the parts of a file that have come, one by one: a large file is never in memory as a whole. */
export async function checkUpload(
  db: Knex,
  { teacher, asset }: { teacher: TeacherId; asset: AssetId },
): Promise<CheckedUpload> {
  const upload = await uploadOf(db, teacher, asset).first();
  const count = (await arrivedParts(db, teacher, asset)).length;
  const hash = createHash('sha256');
  const head: Buffer[] = [];
  let sizeBytes = 0;
  let isWhole = count > 0 || asset === OF_NOTHING;
  for (let n = 0; n < count && isWhole; n++) {
    const part = await db<AssetChunkRow>('asset_chunks').where({ asset_id: upload!.chunks_of, n }).first('bytes');
    isWhole = part !== undefined && (n === count - 1 || part.bytes.length === UPLOAD_PART_BYTES);
    if (!part) break;
    hash.update(part.bytes);
    if (n < HEAD_PARTS) head.push(part.bytes);
    sizeBytes += part.bytes.length;
  }
  const seen = upload ? { chunks_of: upload.chunks_of, changes: upload.changes } : null;
  return { seen, isWhole, hash: hash.digest('hex'), sizeBytes, head: Buffer.concat(head) };
}

/**
 * Makes an asset of a file whose parts have come.
 * @param found what the parts are together
 * @param typeOf its media type by its beginning and its length; throws what is wrong with it
 * @returns its name
 * @throws RequestProblem when parts are missing, or it is another file than its name says
 */
export async function claimUpload(
  db: Knex,
  teacher: TeacherId,
  asset: AssetId,
  found: CheckedUpload,
  typeOf: (head: Uint8Array, sizeBytes: number) => string,
): Promise<AssetId> {
  const upload = await uploadOf(db, teacher, asset).forUpdate().first();
  const isNow = upload?.chunks_of === found.seen?.chunks_of && upload?.changes === found.seen?.changes;
  const { isWhole, hash, sizeBytes, head } = isNow ? found : await checkUpload(db, { teacher, asset });
  if (!isWhole) throw conflict('parts-missing', 'Parts of this file have not arrived yet.');
  const mediaType = typeOf(head, sizeBytes);
  if (hash !== asset) throw badInput('This file was damaged on its way. Try again.');
  const { chunks_of } = upload!;
  const created_at = new Date().toISOString();
  const made = await db('assets')
    .insert({ id: asset, media_type: mediaType, size_bytes: sizeBytes, created_at, chunks_of })
    .onConflict('id')
    .ignore()
    .returning('id');
  await uploadOf(db, teacher, asset).delete();
  // The school has it already: it is kept once.
  if (made.length === 0) await db('assets').where({ id: chunks_of }).delete();
  return asset;
}

/**
 * Makes an asset of a file for lessons, whose parts have come, unless they have it: it may have come for another lesson
 * meanwhile, or its answer have been lost.
 * @throws RequestProblem as `claimUpload`
 */
export async function takeFile(db: Knex, writer: Writer, asset: AssetId, found: CheckedUpload): Promise<void> {
  const { id } = writer.teacher;
  // A teacher's files are taken one after the other, for the parts are there once.
  await db('teachers').where({ id }).forNoKeyUpdate().first('id');
  if (!(await hasFile(db, writer, asset))) await claimUpload(db, id, asset, found, acceptedType);
}
