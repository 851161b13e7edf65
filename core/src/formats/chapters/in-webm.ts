import { FormatError } from '../bytes';
import { utf8 } from '../utf8';
import type { FilmChapter } from './film-chapter';

/** Names of elements (RFC 9559, section 5). */
const SEGMENT = 0x18538067;
const SEEK_HEAD = 0x114d9b74;
const CLUSTER = 0x1f43b675;
const ATTACHMENTS = 0x1941a469;
const CHAPTERS = 0x1043a770;
const EDITION_ENTRY = 0x45b9;
const CHAPTER_ATOM = 0xb6;
const CHAPTER_UID = 0x73c4;
const CHAPTER_TIME_START = 0x91;
const CHAPTER_DISPLAY = 0x80;
const CHAP_STRING = 0x85;
const CHAP_LANGUAGE = 0x437c;
const VOID = 0xec;

const NANOSECONDS = 1_000_000_000;

/** A stretch of bytes that is to be written over. */
export interface BytePatch {
  at: number;
  bytes: Uint8Array<ArrayBuffer>;
}

/** How many bytes have to be attached to a film, so that its chapters have room in their place. */
export const webmChapterBytes = (chapters: readonly FilmChapter[]): number => chaptersElement(chapters).length;

/**
 * How chapters are put into a WebM file (RFC 9559, sections 5.1.7 and 7.3.1) before its frames, where others look for them: in the place
 * of what was attached to it for that, for nothing in the file may move.
 * @param head the file's bytes, at least up to its first frame
 * @throws FormatError where nothing large enough is attached
 */
export function webmChapterPatches(head: Uint8Array, chapters: readonly FilmChapter[]): BytePatch[] {
  const made = chaptersElement(chapters);
  const patches: BytePatch[] = [];
  for (const { id, at, bodyAt, end } of elementsBefore(head, CLUSTER)) {
    if (id === SEEK_HEAD) {
      const named = indexOf(head.subarray(bodyAt, end), idBytes(ATTACHMENTS));
      if (named >= 0) patches.push({ at: bodyAt + named, bytes: idBytes(CHAPTERS) });
    } else if (id === ATTACHMENTS) {
      const rest = end - at - made.length;
      if (rest < 0 || (rest > 0 && rest < SMALLEST_VOID)) break;
      const bytes = new Uint8Array(end - at);
      bytes.set(made);
      if (rest > 0) bytes.set(voidElement(rest), made.length);
      return [...patches, { at, bytes }];
    }
  }
  throw new FormatError('There is no room for chapters in this file.');
}

function chaptersElement(chapters: readonly FilmChapter[]): Uint8Array {
  const atoms = chapters.map(({ startSeconds, title }, n) =>
    element(
      CHAPTER_ATOM,
      element(CHAPTER_UID, unsigned(n + 1)),
      element(CHAPTER_TIME_START, unsigned(Math.round(startSeconds * NANOSECONDS))),
      element(CHAPTER_DISPLAY, element(CHAP_STRING, utf8(title)), element(CHAP_LANGUAGE, utf8('und'))),
    ),
  );
  return element(CHAPTERS, element(EDITION_ENTRY, ...atoms));
}

interface Found {
  id: number;
  at: number;
  bodyAt: number;
  end: number;
}

/** The elements of the segment, up to the first of a name. */
function* elementsBefore(bytes: Uint8Array, last: number): Generator<Found> {
  for (let at = 0; at < bytes.length;) {
    const idLength = lengthAt(bytes, at);
    const sizeLength = lengthAt(bytes, at + idLength);
    const id = bigEndian(bytes, at, idLength);
    const bodyAt = at + idLength + sizeLength;
    if (id === last || sizeLength === 0 || bodyAt > bytes.length) return;
    const size = bigEndian(bytes, at + idLength, sizeLength) - 2 ** (7 * sizeLength);
    if (id !== SEGMENT) yield { id, at, bodyAt, end: bodyAt + size };
    at = id === SEGMENT ? bodyAt : bodyAt + size;
  }
}

/** How many bytes a name or a size has: its leading zero bits tell (RFC 8794, section 4). */
const lengthAt = (bytes: Uint8Array, at: number): number => (bytes[at] > 0 ? Math.clz32(bytes[at]) - 23 : 0);

const bigEndian = (bytes: Uint8Array, at: number, length: number): number =>
  bytes.subarray(at, at + length).reduce((value, byte) => value * 256 + byte, 0);

/** Sizes are told in eight bytes, so that they are as long whatever they are. */
const SIZE_BYTES = 8;
const SMALLEST_VOID = 1 + SIZE_BYTES;

function element(id: number, ...parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const name = idBytes(id);
  const size = parts.reduce((sum, part) => sum + part.length, 0);
  const bytes = new Uint8Array(name.length + SIZE_BYTES + size);
  bytes.set(name);
  bytes.set(sizeBytes(size), name.length);
  let at = name.length + SIZE_BYTES;
  for (const part of parts) {
    bytes.set(part, at);
    at += part.length;
  }
  return bytes;
}

const voidElement = (length: number): Uint8Array => element(VOID, new Uint8Array(length - SMALLEST_VOID));

function sizeBytes(size: number): Uint8Array {
  const bytes = new Uint8Array(SIZE_BYTES);
  new DataView(bytes.buffer).setBigUint64(0, BigInt(size));
  bytes[0] = 1;
  return bytes;
}

function idBytes(id: number): Uint8Array<ArrayBuffer> {
  const digits = id.toString(16);
  return Uint8Array.from(digits.match(/../g)!, (two) => parseInt(two, 16));
}

function unsigned(value: number): Uint8Array {
  const bytes = new Uint8Array(8);
  new DataView(bytes.buffer).setBigUint64(0, BigInt(value));
  return bytes;
}

function indexOf(bytes: Uint8Array, wanted: Uint8Array): number {
  for (let at = 0; at + wanted.length <= bytes.length; at++) {
    if (wanted.every((byte, n) => bytes[at + n] === byte)) return at;
  }
  return -1;
}
