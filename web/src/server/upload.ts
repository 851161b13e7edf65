import { arrivedParts, UPLOAD_PART_BYTES, uploadPartCount } from '@kite-trail/core/contract/upload';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import { wrap, type Remote } from 'comlink';
import type { HashWorker } from '../workers/hash.worker';
import HashingWorker from '../workers/hash.worker?worker';
import { call, Refused } from './call';

let hasher: Remote<HashWorker> | null = null;
export const openHasher = (): Remote<HashWorker> => (hasher ??= wrap<HashWorker>(new HashingWorker()));

/** Files are named by the SHA-256 of their bytes. */
export const assetIdOf = async (file: Blob): Promise<AssetId> => (await openHasher().sha256(file)) as AssetId;

/** Parts that had come may have been given up before the last was sent. */
const MOST_TRIES = 3;

/**
 * Hands a file to the school: part by part, those that have not come before, then what it is for.
 * @param use what the school is asked to do with it
 * @throws Refused, Unreachable
 */
export async function upload<Answer>(
  asset: AssetId,
  file: Blob,
  use: () => Promise<Answer>,
  tries = 1,
): Promise<Answer> {
  const answer = await call('GET', `/uploads/${asset}`);
  const { parts, isHad } = arrivedParts.parse(await answer.json());
  const there = new Set(parts);
  for (let n = 0; n < uploadPartCount(file.size) && !isHad; n++) {
    const part = file.slice(n * UPLOAD_PART_BYTES, (n + 1) * UPLOAD_PART_BYTES);
    if (!there.has(n)) await call('PUT', `/uploads/${asset}/parts/${n}`, part);
  }
  try {
    return await use();
  } catch (error) {
    const isMissing = error instanceof Refused && error.code === 'parts-missing';
    if (isMissing && tries < MOST_TRIES) return upload(asset, file, use, tries + 1);
    // Damaged on its way, or what no lesson can use: the next try begins anew.
    if (error instanceof Refused && error.status === 400) await call('DELETE', `/uploads/${asset}`).catch(() => {});
    throw error;
  }
}
