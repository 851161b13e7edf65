import type { z } from 'zod';
import type { Drawing } from '../drawing/drawing';
import { COORDINATES, MOVE, type Path } from '../drawing/path';
import { CONTENTS, pageUnit, traits, type ComposedKind, type Contents } from '../lesson/content';
import type { AssetId, PageId, PieceId } from '../lesson/ids';
import { turnOfSteps, turnSteps, type Frame } from '../lesson/frame';
import { POINTERS, type Change, type Mark } from '../lesson/mark';
import type { Matrix } from '../lesson/matrix';
import { blankPage, PAPER_KINDS, type Page, type Sheet } from '../lesson/page';
import { FRACTION_STEPS } from '../lesson/picture';
import { NEW, PEN_KINDS, type ComposedPiece, type Pen, type Picture, type Piece, type Stroke } from '../lesson/piece';
import type { RectPt } from '../lesson/rect';
import { STEPS_PER_PT, type InkPoints } from '../ink/points';
import { asciiJson, ByteReader, ByteWriter, checkedJson, damaged, FormatError } from './bytes';
import { readPoints, writePoints } from './ink-coding';

/** `docs/formats.md` describes these bytes. A reader knows all older versions, and refuses newer ones. */
const VERSION = 3;

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
  look: 10,
  point: 11,
} as const;
const PIECE_CODES = { stroke: 1, picture: 2, text: 3, shape: 4, formula: 5, plot: 6, instrument: 7 } as const;
const COMPOSED_KINDS = ['text', 'shape', 'formula', 'plot', 'instrument'] as const;
const OPACITY_STEPS = 255;
/** Flags of a piece. */
const HAS_TRAITS = 1;
const HAS_MATRIX = 2;
const HAS_KNOWN_POINTS = 4;
/** RFC 4648, section 5. */
const ID_LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_';
const PACKED_ID_LETTERS = 12;
/** Flags of a page. */
const HAS_SHEET = 1;
const HAS_PICTURE = 2;
const HAS_SCALE = 4;

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

/** What is mentioned again and again is written once and then called by its number. */
class WriteTables {
  readonly pages = new Map<string, number>();
  readonly ids = new Map<string, number>();
  readonly pens = new Map<string, number>();
  readonly assets = new Map<string, number>();
  readonly cutOuts = new Map<string, number>();
  readonly points = new PointsTable();
  readonly texts = new Map<string, number>();
  readonly drawings = new Map<string, number>();
  readonly outlines = new Map<string, number>();
}

class ReadTables {
  readonly pages: PageId[] = [];
  readonly ids: PieceId[] = [];
  readonly pens: Pen[] = [];
  readonly assets: AssetId[] = [];
  readonly cutOuts: Float32Array[] = [];
  readonly points: InkPoints[] = [];
  readonly texts: string[] = [];
  readonly drawings: Drawing[] = [];
  readonly outlines: Path[] = [];

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
      return change.pieceIds.forEach((id) => writeId(out, tables, id));
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
    case 'look':
      writePageRef(out, tables, change.page);
      out.byte(change.rect ? 1 : 0);
      return sidesOf(change.rect).forEach((side) => writeSignedPt(out, side));
    case 'point':
      writePageRef(out, tables, change.page);
      out.byte(POINTERS.indexOf(change.pointing.pointer));
      writeColor(out, change.pointing.color);
      return writePoints(out, change.pointing.points);
  }
}

const sidesOf = (rect: RectPt | null): number[] => (rect ? [rect.left, rect.top, rect.right, rect.bottom] : []);

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
      return { kind: 'lift', page, pieceIds: Array.from({ length: from.count() }, () => readId(from, tables)) };
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
    case CODES.look: {
      const page = readPageRef(from, tables);
      return { kind: 'look', page, rect: from.byte() === 0 ? null : readRect(from) };
    }
    case CODES.point: {
      const page = readPageRef(from, tables);
      const pointer = POINTERS[from.byte()] ?? 'dot';
      return { kind: 'point', page, pointing: { pointer, color: readColor(from), points: readPoints(from) } };
    }
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
    else if (piece.kind === 'picture') writePicture(out, tables, piece);
    else writeComposed(out, tables, piece);
  }
}

function readPieces(from: ByteReader, tables: ReadTables): Piece[] {
  return Array.from({ length: from.count() }, () => {
    // Before version 2 there were only strokes.
    const code = tables.version === 1 ? PIECE_CODES.stroke : from.byte();
    if (code === PIECE_CODES.stroke) return readStroke(from, tables);
    if (code === PIECE_CODES.picture) return readPicture(from, tables);
    const kind = COMPOSED_KINDS.find((one) => PIECE_CODES[one] === code);
    if (!kind) throw damaged();
    return readComposed(from, tables, kind);
  });
}

/** What every piece has: its id, its place in the stacking order, a byte of flags, and what sets it apart. */
function writeBase(out: ByteWriter, tables: WriteTables, piece: Piece, flags = 0): void {
  const { opacity, locked, group, link, handsOut } = piece;
  const isNew = opacity === 1 && !locked && group === null && link === null && !handsOut;
  writeId(out, tables, piece.id);
  out.unsigned(piece.z);
  out.byte(flags | (isNew ? 0 : HAS_TRAITS));
  if (!isNew) writeJson(out, tables, { opacity, locked, group, link, handsOut });
}

function readBase(from: ByteReader, tables: ReadTables) {
  const id = readId(from, tables);
  const z = from.unsigned();
  const flags = tables.version < 3 ? 0 : from.byte();
  return { flags, base: { ...NEW, ...(flags & HAS_TRAITS ? readJson(from, tables, traits) : {}), id, z } };
}

function writeStroke(out: ByteWriter, tables: WriteTables, stroke: Stroke): void {
  const { pen, matrix, points } = stroke;
  const known = tables.points.numberOf(points);
  writeBase(out, tables, stroke, (matrix ? HAS_MATRIX : 0) | (known === null ? 0 : HAS_KNOWN_POINTS));
  if (writeRef(out, tables.pens, `${pen.kind} ${pen.color} ${pen.widthPt}`)) {
    out.byte(PEN_KINDS.indexOf(pen.kind));
    writeColor(out, pen.color);
    writePt(out, pen.widthPt);
  }
  if (matrix) matrix.forEach((value) => out.float(value));
  if (known === null) writePoints(out, points);
  else out.unsigned(known);
}

function readStroke(from: ByteReader, tables: ReadTables): Stroke {
  const { flags, base } = readBase(from, tables);
  const pen = readRef(from, tables.pens, () => ({
    kind: PEN_KINDS[from.byte()] ?? 'pen',
    color: readColor(from),
    widthPt: readPt(from),
  }));
  const matrix = flags & HAS_MATRIX ? (Array.from({ length: 6 }, () => from.float()) as unknown as Matrix) : null;
  return { ...base, kind: 'stroke', pen, matrix, points: readKnownPoints(from, tables, flags) };
}

function readKnownPoints(from: ByteReader, tables: ReadTables, flags: number): InkPoints {
  if (flags & HAS_KNOWN_POINTS) {
    const points = tables.points[from.unsigned()];
    if (!points) throw damaged();
    return points;
  }
  const points = readPoints(from);
  tables.points.push(points);
  return points;
}

/** Ink that is moved keeps its points, so they need not be written again. */
class PointsTable {
  private readonly byPlace = new Map<string, { points: InkPoints; number: number }[]>();
  private count = 0;

  /** The number of points written before; `null` for new ones, which from now on have one. */
  numberOf(points: InkPoints): number | null {
    const last = points.count - 1;
    const key = `${last} ${points.xPt[0]} ${points.yPt[0]} ${points.xPt[last]} ${points.yPt[last]}`;
    const alike = this.byPlace.get(key) ?? [];
    const known = alike.find((one) => one.points === points || one.points.equals(points));
    if (known) return known.number;
    this.byPlace.set(key, [...alike, { points, number: this.count++ }]);
    return null;
  }
}

/** Ids are mostly twelve letters of an alphabet of 64, which take nine bytes; others are written as they are. */
function writeId(out: ByteWriter, tables: WriteTables, id: PieceId): void {
  if (!writeRef(out, tables.ids, id)) return;
  const codes = Array.from(id, (letter) => ID_LETTERS.indexOf(letter));
  if (codes.length !== PACKED_ID_LETTERS || codes.includes(-1)) return out.text(id);
  out.byte(0);
  for (let i = 0; i < codes.length; i += 4) {
    const bits = (codes[i] << 18) | (codes[i + 1] << 12) | (codes[i + 2] << 6) | codes[i + 3];
    out.byte(bits >> 16);
    out.byte((bits >> 8) & 255);
    out.byte(bits & 255);
  }
}

function readId(from: ByteReader, tables: ReadTables): PieceId {
  if (tables.version < 3) return from.text() as PieceId;
  return readRef(from, tables.ids, () => {
    const id = from.text();
    if (id !== '') return id as PieceId;
    let letters = '';
    for (let i = 0; i < PACKED_ID_LETTERS; i += 4) {
      const bits = (from.byte() << 16) | (from.byte() << 8) | from.byte();
      for (const shift of [18, 12, 6, 0]) letters += ID_LETTERS[(bits >> shift) & 63];
    }
    return letters as PieceId;
  });
}

/** Values that seldom change, as JSON. */
function writeJson(out: ByteWriter, tables: WriteTables, value: unknown): void {
  const json = asciiJson(value);
  if (writeRef(out, tables.texts, json)) out.text(json);
}

const readJson = <T>(from: ByteReader, tables: ReadTables, schema: z.ZodType<T>): T =>
  checkedJson(
    readRef(from, tables.texts, () => from.text()),
    schema,
  );

function writeComposed(out: ByteWriter, tables: WriteTables, piece: ComposedPiece): void {
  writeBase(out, tables, piece);
  writeFrame(out, piece.frame);
  writeJson(out, tables, piece.content);
  writeDrawing(out, tables, piece.drawing);
}

function readComposed(from: ByteReader, tables: ReadTables, kind: ComposedKind): ComposedPiece {
  const { base } = readBase(from, tables);
  const frame = readFrame(from);
  const content = readJson<Contents[ComposedKind]>(from, tables, CONTENTS[kind]);
  return { ...base, kind, frame, content, drawing: readDrawing(from, tables) } as ComposedPiece;
}

const drawingKeys = new WeakMap<Drawing, string>();

function writeDrawing(out: ByteWriter, tables: WriteTables, drawing: Drawing): void {
  const key = drawingKeys.get(drawing) ?? JSON.stringify(drawing);
  drawingKeys.set(drawing, key);
  if (!writeRef(out, tables.drawings, key)) return;
  writePt(out, drawing.widthPt);
  writePt(out, drawing.heightPt);
  out.unsigned(drawing.letters.length);
  for (const { outline, xPt, yPt, sizePt } of drawing.letters) {
    if (writeRef(out, tables.outlines, outline.join())) writePath(out, outline, (unit) => out.signed(unit));
    writeSignedPt(out, xPt);
    writeSignedPt(out, yPt);
    writePt(out, sizePt);
  }
  out.unsigned(drawing.lines.length);
  for (const { path, color, widthPt } of drawing.lines) {
    writePath(out, path, (pt) => writeSignedPt(out, pt));
    out.byte(color ? 1 : 0);
    if (color) writeColor(out, color);
    writePt(out, widthPt);
  }
}

function readDrawing(from: ByteReader, tables: ReadTables): Drawing {
  return readRef(from, tables.drawings, () => ({
    widthPt: readPt(from),
    heightPt: readPt(from),
    letters: Array.from({ length: from.count() }, () => ({
      outline: readRef(from, tables.outlines, () => readPath(from, () => from.signed())),
      xPt: readSignedPt(from),
      yPt: readSignedPt(from),
      sizePt: readPt(from),
    })),
    lines: Array.from({ length: from.count() }, () => ({
      path: readPath(from, () => readSignedPt(from)),
      color: from.byte() === 0 ? null : readColor(from),
      widthPt: readPt(from),
    })),
  }));
}

function writePath(out: ByteWriter, path: Path, write: (value: number) => void): void {
  out.unsigned(path.length);
  let next = 0;
  path.forEach((value, i) => {
    if (i !== next) return write(value);
    out.byte(value);
    next += 1 + COORDINATES[value];
  });
}

function readPath(from: ByteReader, read: () => number): Path {
  const length = from.count();
  const path: number[] = [];
  while (path.length < length) {
    const command = from.byte();
    const coordinates = COORDINATES[command];
    if (coordinates === undefined || (path.length === 0 && command !== MOVE)) throw damaged();
    path.push(command);
    for (let left = coordinates; left > 0; left--) path.push(read());
  }
  return path;
}

function writePicture(out: ByteWriter, tables: WriteTables, picture: Picture): void {
  const { frame, crop, cutOut } = picture;
  writeBase(out, tables, picture);
  if (writeRef(out, tables.assets, picture.asset)) out.text(picture.asset);
  writeFrame(out, frame);
  for (const edge of [crop.left, crop.top, crop.right, crop.bottom]) writeFraction(out, edge);
  if (writeRef(out, tables.cutOuts, cutOut.join())) {
    out.unsigned(cutOut.length);
    cutOut.forEach((fraction) => writeFraction(out, fraction));
  }
}

function readPicture(from: ByteReader, tables: ReadTables): Picture {
  const { base } = readBase(from, tables);
  const asset = readRef(from, tables.assets, () => from.text() as AssetId);
  const isOld = tables.version === 2;
  const frame = isOld ? { ...readFrameSides(from), mirrored: false } : readFrame(from);
  const crop = {
    left: readFraction(from),
    top: readFraction(from),
    right: readFraction(from),
    bottom: readFraction(from),
  };
  const cutOut = readRef(from, tables.cutOuts, () =>
    Float32Array.from({ length: from.count() }, () => readFraction(from)),
  );
  const picture: Picture = { ...base, kind: 'picture', asset, frame, crop, cutOut };
  if (!isOld) return picture;
  const opacity = from.byte() / OPACITY_STEPS;
  const flags = from.byte();
  return { ...picture, opacity, locked: (flags & 2) !== 0, frame: { ...frame, mirrored: (flags & 1) !== 0 } };
}

/** Turn and mirroring share a number. */
function writeFrame(out: ByteWriter, { xPt, yPt, widthPt, heightPt, turnRad, mirrored }: Frame): void {
  writeSignedPt(out, xPt);
  writeSignedPt(out, yPt);
  writePt(out, widthPt);
  writePt(out, heightPt);
  out.unsigned(turnSteps(turnRad) * 2 + (mirrored ? 1 : 0));
}

function readFrame(from: ByteReader): Frame {
  const sides = { xPt: readSignedPt(from), yPt: readSignedPt(from), widthPt: readPt(from), heightPt: readPt(from) };
  const turn = from.unsigned();
  return { ...sides, turnRad: turnOfSteps(Math.floor(turn / 2)), mirrored: turn % 2 === 1 };
}

/** As version 2 wrote it. */
const readFrameSides = (from: ByteReader) => ({
  xPt: readSignedPt(from),
  yPt: readSignedPt(from),
  widthPt: readPt(from),
  heightPt: readPt(from),
  turnRad: turnOfSteps(from.unsigned()),
});

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
  out.byte((page.sheet ? HAS_SHEET : 0) | (page.paper.picture ? HAS_PICTURE : 0) | (page.scale ? HAS_SCALE : 0));
  if (page.sheet) writeSheet(out, page.sheet);
  if (page.paper.picture) out.text(page.paper.picture);
  if (page.scale) {
    out.double(page.scale.perCm);
    out.json(page.scale.unit);
  }
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
  const scale = flags & HAS_SCALE ? { perCm: from.double(), unit: from.json(pageUnit) } : null;
  return { ...page, ...edges, sheet, scale, paper: { ...page.paper, picture } };
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

const readRect = (from: ByteReader): RectPt => ({
  left: readSignedPt(from),
  top: readSignedPt(from),
  right: readSignedPt(from),
  bottom: readSignedPt(from),
});
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
