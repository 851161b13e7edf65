import { decodeTakePart } from '@kite-trail/core/formats/take-part';
import type { Knex } from 'knex';

/** Most parts are some kilobytes; one in which thousands of strokes were pasted takes long to read. */
export const isLargePart = (bytes: Uint8Array): boolean => bytes.length > 128 * 1024;

/** @throws FormatError when a part of a take cannot be read */
export async function readPart(_db: Knex, { bytes }: { bytes: Uint8Array }): Promise<void> {
  decodeTakePart(bytes);
}
