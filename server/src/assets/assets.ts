import { createHash } from 'node:crypto';
import { UPLOAD_PART_BYTES } from '@kite-trail/core/contract/upload';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import type { Request, Response } from 'express';
import type { Knex } from 'knex';
import type { AssetChunkRow, AssetRow } from '../database/rows';
import { answerRange } from '../http/byte-range';
import { notFound } from '../http/problem';

/** All chunks but the last are this long, so a byte range is found without reading the rest. They are as they were sent. */
export const CHUNK_BYTES = UPLOAD_PART_BYTES;

/** Bytes with their SHA-256. */
export interface NamedBytes {
  id: AssetId;
  bytes: Uint8Array;
}

export const named = (bytes: Uint8Array): NamedBytes => ({
  id: createHash('sha256').update(bytes).digest('hex') as AssetId,
  bytes,
});

/** The name of bytes. */
export const nameBytes = async ({ bytes }: { bytes: Uint8Array }): Promise<AssetId> => named(bytes).id;

/**
 * Stores bytes under their SHA-256. Bytes that are there already are not stored twice.
 * @param db a transaction, so that no asset is ever there in part
 */
export async function storeAsset(db: Knex, mediaType: string, { id, bytes }: NamedBytes): Promise<AssetId> {
  const made = await db('assets')
    .insert({ id, media_type: mediaType, size_bytes: bytes.length, created_at: new Date().toISOString() })
    .onConflict('id')
    .ignore()
    .returning('id');
  if (made.length === 0) return id;
  for (let n = 0; n * CHUNK_BYTES < bytes.length; n++) {
    const chunk = Buffer.from(bytes.subarray(n * CHUNK_BYTES, (n + 1) * CHUNK_BYTES));
    await db('asset_chunks').insert({ asset_id: id, n, bytes: chunk });
  }
  return id;
}

/** `Cache-Control` of what never changes (RFC 9111; RFC 8246). */
export const NEVER_CHANGES = 'private, max-age=31536000, immutable';

/** Under which name an asset's chunks are found. */
async function holderOf(db: Knex, id: AssetId): Promise<AssetId> {
  const asset = await db<AssetRow>('assets').where({ id }).first('chunks_of');
  return asset?.chunks_of ?? id;
}

/** An asset's bytes, chunk by chunk. */
export async function* chunksOf(db: Knex, id: AssetId): AsyncGenerator<Buffer> {
  const holder = await holderOf(db, id);
  for (let n = 0; ; n++) {
    const chunk = await db<AssetChunkRow>('asset_chunks').where({ asset_id: holder, n }).first('bytes');
    if (!chunk) return;
    yield chunk.bytes;
  }
}

/** Reads an asset whole. */
export async function readAsset(db: Knex, id: AssetId): Promise<Buffer> {
  const holder = await holderOf(db, id);
  const chunks = await db<AssetChunkRow>('asset_chunks').where({ asset_id: holder }).orderBy('n').select('bytes');
  return Buffer.concat(chunks.map((chunk) => chunk.bytes));
}

/** Sends an asset, which never changes, or the byte range of it that was asked for. */
export async function sendAsset(db: Knex, id: AssetId, request: Request, response: Response): Promise<void> {
  const asset = await db<AssetRow>('assets').where({ id }).first();
  if (!asset) throw notFound('file');
  response.set({ 'Content-Type': asset.media_type, 'Cache-Control': NEVER_CHANGES });
  const range = answerRange(request, response, Number(asset.size_bytes), `"${id}"`);
  if (!range) return;
  const { from, to } = range;
  for (let n = Math.floor(from / CHUNK_BYTES); n * CHUNK_BYTES < to && !response.destroyed; n++) {
    const chunk = await db<AssetChunkRow>('asset_chunks')
      .where({ asset_id: asset.chunks_of ?? id, n })
      .first('bytes');
    const start = n * CHUNK_BYTES;
    const part = chunk!.bytes.subarray(Math.max(0, from - start), to - start);
    if (!response.write(part)) await drained(response);
  }
  response.end();
}

function drained(response: Response): Promise<void> {
  return new Promise((resolve) => {
    const done = () => {
      response.off('drain', done);
      response.off('close', done);
      resolve();
    };
    response.on('drain', done);
    response.on('close', done);
  });
}
