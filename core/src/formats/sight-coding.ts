import type { PieceId } from '../lesson/ids';
import type { Mark } from '../lesson/mark';
import type { Page } from '../lesson/page';
import type { SeenPassing, SightChange } from '../live/sight';
import { ByteReader, ByteWriter, damaged } from './bytes';
import { readIdLetters, readRect, writeIdLetters, writeRect } from './elements';
import { MAGIC, readMagic, writeMagic } from './magic';
import { decodeContents, decodeMarks, encodeMarks, encodePieces } from './marks-coding';

const VERSION = 1;

/** What a change tells, in the order in which it is written. */
const IS_WHOLE = 1;
const HAS_PAGE = 2;
const HAS_GONE = 4;
const HAS_PUT = 8;
const HAS_LOOK = 16;
const HAS_GROWING = 32;
const HAS_WET = 64;
const HAS_PASSING = 128;

/** Writes a change of what is seen live, as it crosses the network. @throws RangeError as `encodeMarks` does */
export function encodeSightChange(change: SightChange): Uint8Array<ArrayBuffer> {
  const { page, isWhole, gone, put, look, growing, wet, passing } = change;
  const out = new ByteWriter();
  writeMagic(out, MAGIC.sight, VERSION);
  const told = [isWhole, page, gone.length > 0, put.length > 0, look !== undefined, growing, wet, passing];
  out.byte(told.reduce((flags: number, one, i) => flags + (one ? 1 << i : 0), 0));
  if (page) out.block(encodeMarks([{ kind: 'alter-page', page, atSamples: 0 }]));
  if (gone.length > 0) writeList(out, gone, (id) => writeIdLetters(out, id));
  if (put.length > 0) out.block(encodePieces(put));
  if (look !== undefined) {
    out.byte(look ? 1 : 0);
    if (look) writeRect(out, look);
  }
  if (growing) {
    writeList(out, [...growing], ([id, count]) => {
      writeIdLetters(out, id);
      out.unsigned(count);
    });
  }
  if (wet) {
    writeList(out, wet, ({ from, piece }) => {
      out.unsigned(from);
      out.block(encodePieces([piece]));
    });
  }
  if (passing) {
    writeList(out, passing, ({ change: seen, sinceMs, isHeld }) => {
      out.unsigned(Math.max(0, Math.round(sinceMs)));
      out.byte(isHeld ? 1 : 0);
      out.block(encodeMarks([{ ...seen, atSamples: 0 }]));
    });
  }
  return out.finish();
}

/**
 * Reads what {@link encodeSightChange} wrote. Pieces that cannot be read are left out.
 * @throws FormatError where the bytes are damaged, or of a newer version
 */
export function decodeSightChange(bytes: Uint8Array): SightChange {
  const from = new ByteReader(bytes);
  readMagic(from, MAGIC.sight, VERSION);
  const flags = from.byte();
  const has = (flag: number) => (flags & flag) !== 0;
  const change: SightChange = {
    isWhole: has(IS_WHOLE),
    ...(has(HAS_PAGE) && { page: readPage(from) }),
    gone: has(HAS_GONE) ? readList(from, () => readIdLetters(from) as PieceId) : [],
    put: has(HAS_PUT) ? decodeContents(from.block()).pieces : [],
    ...(has(HAS_LOOK) && { look: from.byte() === 1 ? readRect(from) : null }),
    ...(has(HAS_GROWING) && {
      growing: new Map(readList(from, () => [readIdLetters(from) as PieceId, from.unsigned()] as const)),
    }),
    ...(has(HAS_WET) && { wet: readList(from, () => readWet(from)) }),
    ...(has(HAS_PASSING) && { passing: readList(from, () => readPassing(from)) }),
  };
  from.end();
  return change;
}

function readPage(from: ByteReader): Page {
  const mark = onlyMark(from);
  if (mark.kind !== 'alter-page') throw damaged();
  return mark.page;
}

function readWet(from: ByteReader) {
  const first = from.unsigned();
  const [piece] = decodeContents(from.block()).pieces;
  if (!piece) throw damaged();
  return { from: first, piece };
}

function readPassing(from: ByteReader): SeenPassing {
  const sinceMs = from.unsigned();
  const isHeld = from.byte() === 1;
  const mark = onlyMark(from);
  if (mark.kind === 'ink') return { change: { kind: 'ink', page: mark.page, stroke: mark.stroke }, sinceMs, isHeld };
  if (mark.kind !== 'point') throw damaged();
  return { change: { kind: 'point', page: mark.page, pointing: mark.pointing }, sinceMs, isHeld };
}

function onlyMark(from: ByteReader): Mark {
  const [mark] = decodeMarks(from.block());
  if (!mark) throw damaged();
  return mark;
}

function writeList<One>(out: ByteWriter, things: readonly One[], write: (one: One) => void): void {
  out.unsigned(things.length);
  things.forEach(write);
}

const readList = <One>(from: ByteReader, read: () => One): One[] => Array.from({ length: from.count() }, read);
