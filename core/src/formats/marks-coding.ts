import { changeProblem, pieceProblem } from '../contract/change';
import type { PageId } from '../lesson/ids';
import { POINTERS, type ArrangedPiece, type Change, type Mark } from '../lesson/mark';
import type { Page } from '../lesson/page';
import type { Piece } from '../lesson/piece';
import type { PageState } from '../lesson/scene';
import type { Unread } from '../lesson/unread';
import { ByteReader, ByteWriter, damaged, FormatError } from './bytes';
import { MARK_CODES, PIECE_CODES } from './codes';
import { earlierMarks, earlierPieces, LAST_EARLIER_VERSION, REST } from './earlier-coding';
import {
  readCode,
  readColor,
  readFrame,
  readMatrix,
  readRect,
  writeCode,
  writeColor,
  writeFrame,
  writeMatrix,
  writeRect,
} from './elements';
import { readInk, writeInk } from './ink-coding';
import { hasMagic, MAGIC, newer, readMagic, writeMagic, type Magic } from './magic';
import { readPage, writePage } from './page-coding';
import { pieceCode, readId, readPiece, writeId, writePiece } from './piece-coding';
import { INK_VERSION, isUnread, readRecord, writeRecord, writeUnread } from './records';
import { ReadTables, WriteTables, type Mentioned } from './tables';

/** Flags of an arranged piece. */
const HAS_PLACE = 1;
const HAS_MATRIX = 2;
const HAS_FRAME = 4;
const IS_UNMOVED = 8;

/** What lies on a page: the pieces that could be read, and what could not. */
export interface Contents {
  pieces: Piece[];
  unread: Unread[];
}
type Written = { [Part in keyof Contents]: Readonly<Contents[Part]> };

/**
 * Writes marks, in the order of their times, as compact bytes.
 * @throws RangeError where a mark is beyond what can be written; `contract/change` tells beforehand
 */
export function encodeMarks(marks: readonly Mark[]): Uint8Array<ArrayBuffer> {
  const tables = new WriteTables(mentionedIn(marks));
  const records = new ByteWriter();
  records.unsigned(marks.length);
  let lastSamples = 0;
  for (const mark of marks) {
    records.signed(mark.atSamples - lastSamples);
    lastSamples = mark.atSamples;
    if (mark.kind === 'unread') writeUnread(records, tables, mark.raw);
    else writeRecord(records, MARK_CODES[mark.kind], (content) => writeChange(content, tables, mark));
  }
  return withTables(MAGIC.marks, tables, records);
}

/**
 * Reads marks, of any version. One that cannot be read becomes an `unread` mark, and costs itself alone.
 * @throws FormatError when the bytes are of a newer version, or not marks at all
 */
export function decodeMarks(bytes: Uint8Array): Mark[] {
  if (!hasMagic(bytes, MAGIC.marks)) return earlierMarks(ofEarlierVersion(bytes));
  const from = new ByteReader(bytes);
  const tables = readTables(from, MAGIC.marks);
  const marks: Mark[] = [];
  let atSamples = 0;
  const left = records(from, tables, () => {
    atSamples += from.signed();
    if (atSamples < 0) throw damaged();
    const read = readRecord(from, tables, readCheckedChange);
    marks.push(isUnread(read) ? { kind: 'unread', atSamples, raw: read.unread } : { atSamples, ...read });
  });
  if (left) marks.push({ kind: 'unread', atSamples: marks.at(-1)?.atSamples ?? 0, raw: left });
  return marks;
}

/** Writes what lies on a page as compact bytes. @throws RangeError as {@link encodeMarks} does */
export function encodeContents({ pieces, unread }: Written): Uint8Array<ArrayBuffer> {
  const tables = new WriteTables(mentionedIn([{ kind: 'place', page: '' as PageId, pieces }]));
  const records = new ByteWriter();
  writeContents(records, tables, pieces, unread);
  return withTables(MAGIC.pieces, tables, records);
}

/** Reads what lies on a page, of any version. @throws FormatError as {@link decodeMarks} does */
export function decodeContents(bytes: Uint8Array): Contents {
  if (!hasMagic(bytes, MAGIC.pieces)) return earlierPieces(ofEarlierVersion(bytes));
  const from = new ByteReader(bytes);
  const tables = readTables(from, MAGIC.pieces);
  const contents: Contents = { pieces: [], unread: [] };
  const left = records(from, tables, () => readInto(contents, from, tables));
  if (left) contents.unread.push(left);
  return contents;
}

/** A page with what was read of its contents. */
export const pageStateFrom = (page: Page, { pieces, unread }: Contents): PageState =>
  unread.length > 0 ? { page, pieces, unread } : { page, pieces };

/** The bytes of what lies on a page. */
export const contentsOf = ({ pieces, unread = [] }: PageState): Uint8Array<ArrayBuffer> =>
  encodeContents({ pieces, unread });

export const encodePieces = (pieces: readonly Piece[]): Uint8Array<ArrayBuffer> =>
  encodeContents({ pieces, unread: [] });

/** The pieces that can be read. */
export const decodePieces = (bytes: Uint8Array): Piece[] => decodeContents(bytes).pieces;

function mentionedIn(changes: readonly Change[]): Mentioned {
  const mentioned: Mentioned = { ids: [], points: [] };
  for (const change of changes) {
    if (change.kind === 'unread') continue;
    if ('page' in change && typeof change.page === 'string') mentioned.ids.push(change.page);
    const pieces =
      change.kind === 'ink' ? [change.stroke] : change.kind === 'place' || change.kind === 'alter' ? change.pieces : [];
    for (const piece of pieces) {
      mentioned.ids.push(piece.id);
      if (piece.kind === 'stroke') mentioned.points.push(piece.points);
    }
    if (change.kind === 'lift' || change.kind === 'transform') mentioned.ids.push(...change.pieceIds);
    if (change.kind === 'arrange') mentioned.ids.push(...change.pieces.map(({ id }) => id));
  }
  return mentioned;
}

function withTables(magic: Magic, tables: WriteTables, records: ByteWriter): Uint8Array<ArrayBuffer> {
  const out = new ByteWriter();
  writeMagic(out, magic, INK_VERSION);
  out.block(tables.finish());
  out.bytes(records.written);
  return out.finish();
}

function readTables(from: ByteReader, magic: Magic): ReadTables {
  readMagic(from, magic, INK_VERSION);
  return new ReadTables(from.block());
}

function ofEarlierVersion(bytes: Uint8Array): Uint8Array {
  const version = new ByteReader(bytes).byte();
  if (version > LAST_EARLIER_VERSION || version === 0) throw newer();
  return bytes;
}

/**
 * Reads as many records as are said to be there.
 * @returns the rest, where the bytes no longer say where a record ends
 */
function records(from: ByteReader, tables: ReadTables, readOne: () => void): Unread | null {
  let rest = from.unread;
  try {
    for (let left = from.count(); left > 0; left--) {
      rest = from.unread;
      readOne();
    }
    rest = from.unread;
    from.end();
    return null;
  } catch (error) {
    if (!(error instanceof FormatError)) throw error;
    return { version: INK_VERSION, code: REST, bytes: rest, tables: tables.bytes };
  }
}

function writeContents(
  out: ByteWriter,
  tables: WriteTables,
  pieces: readonly Piece[],
  unread: readonly Unread[] = [],
): void {
  out.unsigned(pieces.length + unread.length);
  for (const piece of pieces) writeRecord(out, pieceCode(piece), (content) => writePiece(content, tables, piece));
  for (const raw of unread) writeUnread(out, tables, raw);
}

function readInto(contents: Contents, from: ByteReader, tables: ReadTables): void {
  const read = readRecord(from, tables, readCheckedPiece);
  if (isUnread(read)) contents.unread.push(read.unread);
  else contents.pieces.push(read);
}

function readContents(from: ByteReader, tables: ReadTables): { pieces: Piece[]; unread?: Unread[] } {
  const contents: Contents = { pieces: [], unread: [] };
  for (let left = from.count(); left > 0; left--) readInto(contents, from, tables);
  return contents.unread.length > 0 ? contents : { pieces: contents.pieces };
}

function writeChange(out: ByteWriter, tables: WriteTables, change: Exclude<Change, { kind: 'unread' }>): void {
  if (change.kind === 'add-page') return (writeAfter(out, change.after), writePage(out, change.page));
  if (change.kind === 'alter-page') return writePage(out, change.page);
  writeId(out, tables, change.page);
  switch (change.kind) {
    case 'ink':
      return writePiece(out, tables, change.stroke);
    case 'place':
    case 'alter':
      return writeContents(out, tables, change.pieces, change.unread);
    case 'lift':
      return writeIdList(out, tables, change.pieceIds);
    case 'turn':
    case 'drop-page':
      return;
    case 'move-page':
      return writeAfter(out, change.after);
    case 'look':
      out.byte(change.rect ? 1 : 0);
      return change.rect ? writeRect(out, change.rect) : undefined;
    case 'point':
      writeCode(out, POINTERS, change.pointing.pointer);
      writeColor(out, change.pointing.color);
      return writeInk(out, change.pointing.points);
    case 'transform':
      writeIdList(out, tables, change.pieceIds);
      return change.matrix.forEach((value) => out.double(value));
    case 'arrange':
      out.unsigned(change.pieces.length);
      return change.pieces.forEach((piece) => writeArranged(out, tables, piece));
  }
}

/** What can be read but not be made was damaged. */
function readCheckedChange(from: ByteReader, tables: ReadTables, code: number): Change {
  const change = readChange(from, tables, code);
  if (changeProblem(change)) throw damaged();
  return change;
}

function readCheckedPiece(from: ByteReader, tables: ReadTables, code: number): Piece {
  const piece = readPiece(from, tables, code);
  if (pieceProblem(piece)) throw damaged();
  return piece;
}

function readChange(from: ByteReader, tables: ReadTables, code: number): Change {
  if (code === MARK_CODES['add-page']) return { kind: 'add-page', after: readAfter(from), page: readPage(from) };
  if (code === MARK_CODES['alter-page']) return { kind: 'alter-page', page: readPage(from) };
  const page = readId<PageId>(from, tables);
  switch (code) {
    case MARK_CODES.ink: {
      const stroke = readPiece(from, tables, PIECE_CODES.stroke);
      if (stroke.kind !== 'stroke') throw damaged();
      return { kind: 'ink', page, stroke };
    }
    case MARK_CODES.place:
      return { kind: 'place', page, ...readContents(from, tables) };
    case MARK_CODES.alter:
      return { kind: 'alter', page, ...readContents(from, tables) };
    case MARK_CODES.lift:
      return { kind: 'lift', page, pieceIds: readIdList(from, tables) };
    case MARK_CODES.turn:
      return { kind: 'turn', page };
    case MARK_CODES['drop-page']:
      return { kind: 'drop-page', page };
    case MARK_CODES['move-page']:
      return { kind: 'move-page', page, after: readAfter(from) };
    case MARK_CODES.look:
      return { kind: 'look', page, rect: from.byte() === 0 ? null : readRect(from) };
    case MARK_CODES.point: {
      const pointer = readCode(from, POINTERS);
      return { kind: 'point', page, pointing: { pointer, color: readColor(from), points: readInk(from) } };
    }
    case MARK_CODES.transform: {
      const pieceIds = readIdList(from, tables);
      const [a, b, c, d, e, f] = Array.from({ length: 6 }, () => from.double());
      return { kind: 'transform', page, pieceIds, matrix: [a, b, c, d, e, f] };
    }
    case MARK_CODES.arrange:
      return { kind: 'arrange', page, pieces: Array.from({ length: from.count() }, () => readArranged(from, tables)) };
    default:
      throw damaged();
  }
}

const writeAfter = (out: ByteWriter, after: PageId | null) => out.text(after ?? '');

function readAfter(from: ByteReader): PageId | null {
  const page = from.text();
  return page === '' ? null : (page as PageId);
}

/** The same pieces are moved again and again while they are dragged: their ids are a table's entry. */
function writeIdList(out: ByteWriter, tables: WriteTables, ids: readonly string[]): void {
  const number = tables.numberOf('idLists', ids.join(' '), (entry) => ids.forEach((id) => writeId(entry, tables, id)));
  out.unsigned(number);
}

const readIdList = (from: ByteReader, tables: ReadTables) =>
  tables.entry('idLists', from.unsigned(), (entry) => {
    const ids: Piece['id'][] = [];
    while (entry.left > 0) ids.push(readId(entry, tables));
    return ids;
  });

function writeArranged(out: ByteWriter, tables: WriteTables, { id, z, matrix, frame }: ArrangedPiece): void {
  writeId(out, tables, id);
  const moved = matrix === null ? IS_UNMOVED : matrix ? HAS_MATRIX : 0;
  out.byte((z === undefined ? 0 : HAS_PLACE) | moved | (frame ? HAS_FRAME : 0));
  if (z !== undefined) out.signed(z);
  if (matrix) writeMatrix(out, matrix);
  if (frame) writeFrame(out, frame);
}

function readArranged(from: ByteReader, tables: ReadTables): ArrangedPiece {
  const id = readId<Piece['id']>(from, tables);
  const flags = from.byte();
  return {
    id,
    ...(flags & HAS_PLACE ? { z: from.signed() } : {}),
    ...(flags & IS_UNMOVED ? { matrix: null } : {}),
    ...(flags & HAS_MATRIX ? { matrix: readMatrix(from) } : {}),
    ...(flags & HAS_FRAME ? { frame: readFrame(from) } : {}),
  };
}
