import type { PageId, PieceId } from '../lesson/ids';
import type { Mark } from '../lesson/mark';
import { PAPER_KINDS, type Page } from '../lesson/page';
import { PEN_KINDS, type Pen, type Piece, type Stroke } from '../lesson/piece';
import { STEPS_PER_PT } from '../ink/points';
import { ByteReader, ByteWriter, damaged, FormatError } from './bytes';
import { readPoints, writePoints } from './ink-coding';

/** `docs/formats.md` describes these bytes. A reader refuses versions it does not know. */
const VERSION = 1;

const CODES = { ink: 1, place: 2, lift: 3, turn: 4, 'add-page': 5 } as const;

/** Writes marks, in the order of their times, as compact bytes. */
export function encodeMarks(marks: readonly Mark[]): Uint8Array<ArrayBuffer> {
  const out = new ByteWriter();
  const tables: WriteTables = { pages: new Map(), pens: new Map() };
  out.byte(VERSION);
  out.unsigned(marks.length);
  let lastSamples = 0;
  for (const mark of marks) {
    out.byte(CODES[mark.kind]);
    out.signed(mark.atSamples - lastSamples);
    lastSamples = mark.atSamples;
    writeChange(out, tables, mark);
  }
  return out.finish();
}

/** Reads marks. @throws FormatError when the bytes are damaged or of a newer version */
export function decodeMarks(bytes: Uint8Array): Mark[] {
  const from = new ByteReader(bytes);
  readVersion(from);
  const tables: ReadTables = { pages: [], pens: [] };
  const marks: Mark[] = [];
  let atSamples = 0;
  for (let left = from.count(); left > 0; left--) {
    const code = from.byte();
    atSamples += from.signed();
    if (atSamples < 0) throw damaged();
    marks.push(readMark(from, tables, code, atSamples));
  }
  return marks;
}

/** Writes a page's pieces as compact bytes. */
export function encodePieces(pieces: readonly Piece[]): Uint8Array<ArrayBuffer> {
  const out = new ByteWriter();
  out.byte(VERSION);
  writeStrokes(out, { pages: new Map(), pens: new Map() }, pieces);
  return out.finish();
}

/** Reads a page's pieces. @throws FormatError */
export function decodePieces(bytes: Uint8Array): Piece[] {
  const from = new ByteReader(bytes);
  readVersion(from);
  return readStrokes(from, { pages: [], pens: [] });
}

interface WriteTables {
  pages: Map<string, number>;
  pens: Map<string, number>;
}

interface ReadTables {
  pages: PageId[];
  pens: Pen[];
}

function readVersion(from: ByteReader): void {
  if (from.byte() !== VERSION) {
    throw new FormatError('This ink was saved by a newer version of Kite Trail. Update this one to open it.');
  }
}

function writeChange(out: ByteWriter, tables: WriteTables, mark: Mark): void {
  switch (mark.kind) {
    case 'ink':
      writePageRef(out, tables, mark.page);
      return writeStroke(out, tables, mark.stroke);
    case 'place':
      writePageRef(out, tables, mark.page);
      return writeStrokes(out, tables, mark.pieces);
    case 'lift':
      writePageRef(out, tables, mark.page);
      out.unsigned(mark.pieceIds.length);
      return mark.pieceIds.forEach((id) => out.text(id));
    case 'turn':
      return writePageRef(out, tables, mark.page);
    case 'add-page':
      out.text(mark.after ?? '');
      return writePage(out, mark.page);
  }
}

function readMark(from: ByteReader, tables: ReadTables, code: number, atSamples: number): Mark {
  switch (code) {
    case CODES.ink:
      return { kind: 'ink', atSamples, page: readPageRef(from, tables), stroke: readStroke(from, tables) };
    case CODES.place:
      return { kind: 'place', atSamples, page: readPageRef(from, tables), pieces: readStrokes(from, tables) };
    case CODES.lift: {
      const page = readPageRef(from, tables);
      const pieceIds = Array.from({ length: from.count() }, () => from.text() as PieceId);
      return { kind: 'lift', atSamples, page, pieceIds };
    }
    case CODES.turn:
      return { kind: 'turn', atSamples, page: readPageRef(from, tables) };
    case CODES['add-page']: {
      const after = from.text();
      return { kind: 'add-page', atSamples, after: after === '' ? null : (after as PageId), page: readPage(from) };
    }
    default:
      throw damaged();
  }
}

/** Pages and pens are named once and then called by their number. */
function writePageRef(out: ByteWriter, tables: WriteTables, page: PageId): void {
  if (writeRef(out, tables.pages, page)) out.text(page);
}

function readPageRef(from: ByteReader, tables: ReadTables): PageId {
  return readRef(from, tables.pages, () => from.text() as PageId);
}

function writeRef(out: ByteWriter, table: Map<string, number>, key: string): boolean {
  const known = table.get(key);
  out.unsigned(known ?? table.size);
  if (known === undefined) table.set(key, table.size);
  return known === undefined;
}

function readRef<T>(from: ByteReader, table: T[], read: () => T): T {
  const ref = from.unsigned();
  if (ref > table.length) throw damaged();
  if (ref === table.length) table.push(read());
  return table[ref];
}

function writeStrokes(out: ByteWriter, tables: WriteTables, strokes: readonly Stroke[]): void {
  out.unsigned(strokes.length);
  for (const stroke of strokes) writeStroke(out, tables, stroke);
}

function readStrokes(from: ByteReader, tables: ReadTables): Stroke[] {
  return Array.from({ length: from.count() }, () => readStroke(from, tables));
}

function writeStroke(out: ByteWriter, tables: WriteTables, stroke: Stroke): void {
  const { pen } = stroke;
  out.text(stroke.id);
  out.unsigned(stroke.z);
  if (writeRef(out, tables.pens, `${pen.kind} ${pen.color} ${pen.widthPt}`)) {
    out.byte(PEN_KINDS.indexOf(pen.kind));
    writeColor(out, pen.color);
    writePt(out, pen.widthPt);
  }
  writePoints(out, stroke.points);
}

function readStroke(from: ByteReader, tables: ReadTables): Stroke {
  const id = from.text() as PieceId;
  const z = from.unsigned();
  const pen = readRef(from, tables.pens, () => ({
    kind: PEN_KINDS[from.byte()] ?? 'pen',
    color: readColor(from),
    widthPt: readPt(from),
  }));
  return { kind: 'stroke', id, z, pen, points: readPoints(from) };
}

function writePage(out: ByteWriter, page: Page): void {
  out.text(page.id);
  writePt(out, page.widthPt);
  writePt(out, page.heightPt);
  out.byte(PAPER_KINDS.indexOf(page.paper.kind));
  writeColor(out, page.paper.color);
  writeColor(out, page.paper.lineColor);
  writePt(out, page.paper.spacingPt);
}

function readPage(from: ByteReader): Page {
  return {
    id: from.text() as PageId,
    widthPt: readPt(from),
    heightPt: readPt(from),
    paper: {
      kind: PAPER_KINDS[from.byte()] ?? 'plain',
      color: readColor(from),
      lineColor: readColor(from),
      spacingPt: readPt(from),
    },
  };
}

const writePt = (out: ByteWriter, pt: number) => out.unsigned(Math.round(pt * STEPS_PER_PT));
const readPt = (from: ByteReader) => from.unsigned() / STEPS_PER_PT;

function writeColor(out: ByteWriter, color: string): void {
  for (let i = 1; i < 7; i += 2) out.byte(parseInt(color.slice(i, i + 2), 16));
}

function readColor(from: ByteReader): string {
  let color = '#';
  for (let i = 0; i < 3; i++) color += from.byte().toString(16).padStart(2, '0');
  return color;
}
