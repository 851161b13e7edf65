import type { ByteReader, ByteWriter } from './bytes';
import { FormatError } from './bytes';

/** What stored or sent bytes begin with: four letters that say what they are. A byte with their version follows. */
export const MAGIC = {
  marks: 'KTmk',
  pieces: 'KTpc',
  history: 'KThi',
  takePart: 'KTtp',
  payload: 'KTwp',
  profile: 'KTvp',
  sight: 'KTls',
} as const;
export type Magic = (typeof MAGIC)[keyof typeof MAGIC];

export function writeMagic(out: ByteWriter, magic: Magic, version: number): void {
  out.ascii(magic);
  out.byte(version);
}

/** Whether bytes begin so. Those of the first versions began with nothing of the kind. */
export const hasMagic = (bytes: Uint8Array, magic: Magic): boolean =>
  bytes.length > magic.length && Array.from(magic).every((letter, i) => bytes[i] === letter.charCodeAt(0));

/** Skips the letters. @returns the version @throws FormatError where it is newer than the newest that is known */
export function readMagic(from: ByteReader, magic: Magic, newest: number): number {
  from.bytes(magic.length);
  const version = from.byte();
  if (version > newest || version === 0) throw newer();
  return version;
}

export const newer = () =>
  new FormatError('This was saved by a newer version of Kite Trail. Update this one to open it; nothing is lost.');
