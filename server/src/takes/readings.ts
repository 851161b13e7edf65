import { decodeHeard } from '@kite-trail/core/formats/profile-coding';
import { decodeTakePart } from '@kite-trail/core/formats/take-part';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import { named } from '../assets/assets';

/** @throws FormatError when a part of a take cannot be read */
export async function readPart({ bytes }: { bytes: Uint8Array }): Promise<void> {
  decodeTakePart(bytes);
}

/** @returns the name of what was heard of a voice @throws FormatError when it cannot be read */
export async function readProfile({ bytes }: { bytes: Uint8Array }): Promise<AssetId> {
  decodeHeard(bytes);
  return named(bytes).id;
}
