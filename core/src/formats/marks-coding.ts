import type { AssetId, PageId, PieceId } from '../lesson/ids';
import type { Change, Mark } from '../lesson/mark';
import { blankPage, PAPER_KINDS, type Page, type Sheet } from '../lesson/page';
import { FRACTION_STEPS, turnOfSteps, turnSteps } from '../lesson/picture';
import { PEN_KINDS, type Pen, type Picture, type Piece, type Stroke } from '../lesson/piece';
import { STEPS_PER_PT } from '../ink/points';
import { ByteReader, ByteWriter, damaged, FormatError } from './bytes';
import { readPoints, writePoints } from './ink-coding';

/** `docs/formats.md` describes these bytes. A reader knows all older versions, and refuses newer ones. */
const VERSION = 2;

const CODES = {
  ink: 1,
  place: 2,
  lift: 3,
  turn: 4,
  'add-page': 5,
  alter: 6,
  'drop-page': 7,
  'move-page': 8,
  'alter-page': 9,
} as const;
const PIECE_CODES = { stroke: 1, picture: 2 } as const;
const OPACITY_STEPS = 255;
/** Flags of a page. */
const HAS_SHEET = 1;
const HAS_PICTURE = 2;

/** Writes marks, in the order of their times, as compact bytes. */
export function encodeMarks(marks: readonly Mark[]): Uint8Array<ArrayBuffer> {
  const out = new ByteWriter();
  const tables = new WriteTables();
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
  const tables = new ReadTables(readVersion(from));
  const marks: Mark[] = [];
  let atSamples = 0;
  for (let left = from.count(); left > 0; left--) {
    const code = from.byte();
    atSamples += from.signed();
    if (atSamples < 0) throw damaged();
    marks.push({ atSamples, ...readChange(from, tables, code) });
  }
  return marks;
}

/** Writes a page's pieces as compact bytes. */
export function encodePieces(pieces: readonly Piece[]): Uint8Array<ArrayBuffer> {
  const out = new ByteWriter();
  out.byte(VERSION);
  writePieces(out, new WriteTables(), pieces);
  return out.finish();
}

/** Reads a page's pieces. @throws FormatError */
export function decodePieces(bytes: Uint8Array): Piece[] {
  const from = new ByteReader(bytes);
  return readPieces(from, new ReadTables(readVersion(from)));
}

/** Pages, pens, assets and cut-outs are written once and then called by their number. */
class WriteTables {
  readonly pages = new Map<string, number>();
  readonly pens = new Map<string, number>();
  readonly assets = new Map<string, number>();
  readonly cutOuts = new Map<string, number>();
}

class ReadTables {
  readonly pages: PageId[] = [];
  readonly pens: Pen[] = [];
  readonly assets: AssetId[] = [];
  readonly cutOuts: Float32Array[] = [];

  constructor(readonly version: number) {}
}

function readVersion(from: ByteReader): number {
  const version = from.byte();
  if (version > VERSION || version === 0) {
    throw new FormatError('This ink was saved by a newer version of Kite Trail. Update this one to open it.');
  }
  return version;
}

function writeChange(out: ByteWriter, tables: WriteTables, change: Change): void {
  switch (change.kind) {
    case 'ink':
      writePageRef(out, tables, change.page);
      return writeStroke(out, tables, change.stroke);
    case 'place':
    case 'alter':
      writePageRef(out, tables, change.page);
      return writePieces(out, tables, change.pieces);
    case 'lift':
      writePageRef(out, tables, change.page);
      out.unsigned(change.pieceIds.length);
      return change.pieceIds.forEach((id) => out.text(id));
    case 'turn':
    case 'drop-page':
      return writePageRef(out, tables, change.page);
    case 'add-page':
      out.text(change.after ?? '');
      return writePage(out, change.page);
    case 'move-page':
      writePageRef(out, tables, change.page);
      return out.text(change.after ?? '');
    case 'alter-page':
      return writePage(out, change.page);
  }
}

function readChange(from: ByteReader, tables: ReadTables, code: number): Change {
  switch (code) {
    case CODES.ink:
      return { kind: 'ink', page: readPageRef(from, tables), stroke: readStroke(from, tables) };
    case CODES.place:
      return { kind: 'place', page: readPageRef(from, tables), pieces: readPieces(from, tables) };
    case CODES.alter:
      return { kind: 'alter', page: readPageRef(from, tables), pieces: readPieces(from, tables) };
    case CODES.lift: {
      const page = readPageRef(from, tables);
      return { kind: 'lift', page, pieceIds: Array.from({ length: from.count() }, () => from.text() as PieceId) };
    }
    case CODES.turn:
      return { kind: 'turn', page: readPageRef(from, tables) };
    case CODES['add-page']: {
      const after = readPageOrNone(from);
      return { kind: 'add-page', after, page: readPage(from, tables.version) };
    }
    case CODES['drop-page']:
      return { kind: 'drop-page', page: readPageRef(from, tables) };
    case CODES['move-page']: {
      const page = readPageRef(from, tables);
      return { kind: 'move-page', page, after: readPageOrNone(from) };
    }
    case CODES['alter-page']:
      return { kind: 'alter-page', page: readPage(from, tables.version) };
    default:
      throw damaged();
  }
}

function writePageRef(out: ByteWriter, tables: WriteTables, page: PageId): void {
  if (writeRef(out, tables.pages, page)) out.text(page);
}

function readPageRef(from: ByteReader, tables: ReadTables): PageId {
  return readRef(from, tables.pages, () => from.text() as PageId);
}

function readPageOrNone(from: ByteReader): PageId | null {
  const page = from.text();
  return page === '' ? null : (page as PageId);
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

function writePieces(out: ByteWriter, tables: WriteTables, pieces: readonly Piece[]): void {
  out.unsigned(pieces.length);
  for (const piece of pieces) {
    out.byte(PIECE_CODES[piece.kind]);
    if (piece.kind === 'stroke') writeStroke(out, tables, piece);
    else writePicture(out, tables, piece);
  }
}

function readPieces(from: ByteReader, tables: ReadTables): Piece[] {
  return Array.from({ length: from.count() }, () => {
    // Before version 2 there were only strokes.
    const code = tables.version === 1 ? PIECE_CODES.stroke : from.byte();
    if (code === PIECE_CODES.stroke) return readStroke(from, tables);
    if (code === PIECE_CODES.picture) return readPicture(from, tables);
    throw damaged();
  });
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

function writePicture(out: ByteWriter, tables: WriteTables, picture: Picture): void {
  const { frame, crop, cutOut } = picture;
  out.text(picture.id);
  out.unsigned(picture.z);
  if (writeRef(out, tables.assets, picture.asset)) out.text(picture.asset);
  writeSignedPt(out, frame.xPt);
  writeSignedPt(out, frame.yPt);
  writePt(out, frame.widthPt);
  writePt(out, frame.heightPt);
  out.unsigned(turnSteps(frame.turnRad));
  for (const edge of [crop.left, crop.top, crop.right, crop.bottom]) writeFraction(out, edge);
  if (writeRef(out, tables.cutOuts, cutOut.join())) {
    out.unsigned(cutOut.length);
    cutOut.forEach((fraction) => writeFraction(out, fraction));
  }
  out.byte(Math.round(picture.opacity * OPACITY_STEPS));
  out.byte((frame.mirrored ? 1 : 0) | (picture.locked ? 2 : 0));
}

function readPicture(from: ByteReader, tables: ReadTables): Picture {
  const id = from.text() as PieceId;
  const z = from.unsigned();
  const asset = readRef(from, tables.assets, () => from.text() as AssetId);
  const frame = {
    xPt: readSignedPt(from),
    yPt: readSignedPt(from),
    widthPt: readPt(from),
    heightPt: readPt(from),
    turnRad: turnOfSteps(from.unsigned()),
  };
  const crop = {
    left: readFraction(from),
    top: readFraction(from),
    right: readFraction(from),
    bottom: readFraction(from),
  };
  const cutOut = readRef(from, tables.cutOuts, () =>
    Float32Array.from({ length: from.count() }, () => readFraction(from)),
  );
  const opacity = from.byte() / OPACITY_STEPS;
  const flags = from.byte();
  return {
    kind: 'picture',
    id,
    z,
    asset,
    frame: { ...frame, mirrored: (flags & 1) !== 0 },
    crop,
    cutOut,
    opacity,
    locked: (flags & 2) !== 0,
  };
}

function writePage(out: ByteWriter, page: Page): void {
  out.text(page.id);
  writePt(out, page.widthPt);
  writePt(out, page.heightPt);
  out.byte(PAPER_KINDS.indexOf(page.paper.kind));
  writeColor(out, page.paper.color);
  writeColor(out, page.paper.lineColor);
  writePt(out, page.paper.spacingPt);
  writeSignedPt(out, page.leftPt);
  writeSignedPt(out, page.topPt);
  out.byte((page.sheet ? HAS_SHEET : 0) | (page.paper.picture ? HAS_PICTURE : 0));
  if (page.sheet) writeSheet(out, page.sheet);
  if (page.paper.picture) out.text(page.paper.picture);
}

function readPage(from: ByteReader, version: number): Page {
  const id = from.text() as PageId;
  const size = { widthPt: readPt(from), heightPt: readPt(from) };
  const page = blankPage(id, size, {
    kind: PAPER_KINDS[from.byte()] ?? 'plain',
    color: readColor(from),
    lineColor: readColor(from),
    spacingPt: readPt(from),
    picture: null,
  });
  if (version === 1) return page;
  const edges = { leftPt: readSignedPt(from), topPt: readSignedPt(from) };
  const flags = from.byte();
  const sheet = flags & HAS_SHEET ? readSheet(from) : null;
  const picture = flags & HAS_PICTURE ? (from.text() as AssetId) : null;
  return { ...page, ...edges, sheet, paper: { ...page.paper, picture } };
}

/** A picture's page index is written as 0, a PDF's as one more than it is. */
function writeSheet(out: ByteWriter, sheet: Sheet): void {
  out.text(sheet.asset);
  out.unsigned(sheet.pageIndex === null ? 0 : sheet.pageIndex + 1);
  writePt(out, sheet.widthPt);
  writePt(out, sheet.heightPt);
}

function readSheet(from: ByteReader): Sheet {
  const asset = from.text() as AssetId;
  const index = from.unsigned();
  return {
    asset,
    pageIndex: index === 0 ? null : index - 1,
    widthPt: readPt(from),
    heightPt: readPt(from),
  };
}

const writePt = (out: ByteWriter, pt: number) => out.unsigned(Math.round(pt * STEPS_PER_PT));
const readPt = (from: ByteReader) => from.unsigned() / STEPS_PER_PT;
const writeSignedPt = (out: ByteWriter, pt: number) => out.signed(Math.round(pt * STEPS_PER_PT));
const readSignedPt = (from: ByteReader) => from.signed() / STEPS_PER_PT;
const writeFraction = (out: ByteWriter, fraction: number) => out.unsigned(Math.round(fraction * FRACTION_STEPS));
const readFraction = (from: ByteReader) => from.unsigned() / FRACTION_STEPS;

function writeColor(out: ByteWriter, color: string): void {
  for (let i = 1; i < 7; i += 2) out.byte(parseInt(color.slice(i, i + 2), 16));
}

function readColor(from: ByteReader): string {
  let color = '#';
  for (let i = 0; i < 3; i++) color += from.byte().toString(16).padStart(2, '0');
  return color;
}
