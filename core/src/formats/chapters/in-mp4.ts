import { FormatError } from '../bytes';
import { utf8 } from '../utf8';
import type { FilmChapter } from './film-chapter';

const HEAD_BYTES = 8;
/** Chapters are counted, and their titles measured, in one byte each. */
const MOST_CHAPTERS = 255;
const MOST_TITLE_BYTES = 255;
/** Times are told in steps of 100 ns. */
const STEPS_PER_SECOND = 10_000_000;

/**
 * The bytes of an MP4's movie box (`moov`, ISO/IEC 14496-12, section 8.2.1) with chapters in its user data: a `chpl` box, which no
 * standard describes, as FFmpeg reads and writes it, and common players after it.
 * @param chapters in the order of their times; those beyond the 255th are left out
 * @throws FormatError where the bytes are no movie box
 */
export function withMp4Chapters(moov: Uint8Array, chapters: readonly FilmChapter[]): Uint8Array<ArrayBuffer> {
  if (nameAt(moov, 0) !== 'moov' || sizeAt(moov, 0) !== moov.length) throw new FormatError('This is no movie box.');
  const chpl = chapterBox(chapters.slice(0, MOST_CHAPTERS));
  const children = childrenOf(moov);
  const userData = children.find(({ name }) => name === 'udta');
  const kept = children.filter((child) => child !== userData).map(({ bytes }) => bytes);
  const inUserData = userData ? childrenOf(userData.bytes).map(({ bytes }) => bytes) : [];
  return box('moov', ...kept, box('udta', ...inUserData, chpl));
}

/** How many bytes chapters add to a movie box at most. */
export const mp4ChapterBytes = (chapters: readonly FilmChapter[]): number => chapterBox(chapters).length + HEAD_BYTES;

function chapterBox(chapters: readonly FilmChapter[]): Uint8Array {
  const entries = chapters.map(({ startSeconds, title }) => {
    const text = shortened(title);
    const entry = new Uint8Array(9 + text.length);
    new DataView(entry.buffer).setBigUint64(0, BigInt(Math.round(startSeconds * STEPS_PER_SECOND)));
    entry[8] = text.length;
    entry.set(text, 9);
    return entry;
  });
  const versionAndReserved = Uint8Array.of(1, 0, 0, 0, 0, 0, 0, 0);
  return box('chpl', versionAndReserved, Uint8Array.of(chapters.length), ...entries);
}

/** As much of a title, in UTF-8, as one byte can measure; not cut within a letter. */
function shortened(title: string): Uint8Array {
  const bytes = utf8(title);
  if (bytes.length <= MOST_TITLE_BYTES) return bytes;
  let end = MOST_TITLE_BYTES;
  while ((bytes[end] & 0xc0) === 0x80) end--;
  return bytes.subarray(0, end);
}

function box(name: string, ...parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const size = parts.reduce((sum, part) => sum + part.length, HEAD_BYTES);
  const bytes = new Uint8Array(size);
  new DataView(bytes.buffer).setUint32(0, size);
  bytes.set(utf8(name), 4);
  let at = HEAD_BYTES;
  for (const part of parts) {
    bytes.set(part, at);
    at += part.length;
  }
  return bytes;
}

function childrenOf(parent: Uint8Array): { name: string; bytes: Uint8Array }[] {
  const children = [];
  for (let at = HEAD_BYTES; at < parent.length;) {
    const size = sizeAt(parent, at);
    if (size < HEAD_BYTES || at + size > parent.length) throw new FormatError('This movie box is damaged.');
    children.push({ name: nameAt(parent, at), bytes: parent.subarray(at, at + size) });
    at += size;
  }
  return children;
}

const sizeAt = (bytes: Uint8Array, at: number): number =>
  bytes.length < at + HEAD_BYTES ? 0 : new DataView(bytes.buffer, bytes.byteOffset).getUint32(at);
const nameAt = (bytes: Uint8Array, at: number): string => String.fromCharCode(...bytes.subarray(at + 4, at + 8));
