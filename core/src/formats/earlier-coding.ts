import type { z } from 'zod';
import type { Drawing } from '../drawing/drawing';
import type { Path } from '../drawing/path';
import type { InkPoints } from '../ink/points';
import { CONTENTS, pageUnit, traits, type ComposedKind, type Contents } from '../lesson/content';
import { turnOfSteps } from '../lesson/frame';
import type { AssetId, PageId, PieceId } from '../lesson/ids';
import { POINTERS, type Change, type Mark } from '../lesson/mark';
import { blankPage, PAPER_KINDS, type Page, type Sheet } from '../lesson/page';
import {
  NEW,
  PEN_KINDS,
  strokeOf,
  type ComposedPiece,
  type Pen,
  type Picture,
  type Piece,
  type Stroke,
} from '../lesson/piece';
import type { Unread } from '../lesson/unread';
import { ByteReader, checkedJson, damaged, FormatError } from './bytes';
import { composedKindOf, MARK_CODES, PIECE_CODES } from './codes';
import {
  readCode,
  readColor,
  readFraction,
  readFrame,
  readIdLetters,
  readMatrix,
  readPath,
  readPt,
  readRect,
  readSignedPt,
} from './elements';
import { readPoints } from './ink-coding';

/**
 * Reads ink as versions 1 to 3 wrote it (`docs/formats.md`). Nothing in these bytes says how long what follows is, so what comes
 * behind something that cannot be read is kept with it, unread.
 */
export const LAST_EARLIER_VERSION = 3;

/** The code of what is kept unread because nobody can tell where it ends. */
export const REST = 255;

const OPACITY_STEPS = 255;
/** Flags of a piece. */
const HAS_TRAITS = 1;
const HAS_MATRIX = 2;
const HAS_KNOWN_POINTS = 4;
/** Flags of a page. */
const HAS_SHEET = 1;
const HAS_PICTURE = 2;
const HAS_SCALE = 4;

/** The marks in these bytes, as far as they can be read. */
export function earlierMarks(bytes: Uint8Array): Mark[] {
  const from = new ByteReader(bytes);
  const tables = new ReadTables(from.byte());
  const marks: Mark[] = [];
  let atSamples = 0;
  try {
    for (let left = from.count(); left > 0; left--) {
      const code = from.byte();
      const at = atSamples + from.signed();
      if (at < 0) throw damaged();
      marks.push({ atSamples: at, ...readChange(from, tables, code) });
      atSamples = at;
    }
  } catch (error) {
    marks.push({ kind: 'unread', atSamples, raw: unreadOf(error, bytes) });
  }
  return marks;
}

/** The pieces in these bytes, as far as they can be read. */
export function earlierPieces(bytes: Uint8Array): { pieces: Piece[]; unread: Unread[] } {
  const from = new ByteReader(bytes);
  const tables = new ReadTables(from.byte());
  const pieces: Piece[] = [];
  try {
    for (let left = from.count(); left > 0; left--) pieces.push(readPiece(from, tables));
    return { pieces, unread: [] };
  } catch (error) {
    return { pieces, unread: [unreadOf(error, bytes)] };
  }
}

/** All of the bytes are kept: what follows refers to what came before. */
function unreadOf(error: unknown, bytes: Uint8Array): Unread {
  if (!(error instanceof FormatError)) throw error;
  return { version: bytes[0], code: REST, bytes, tables: new Uint8Array() };
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

function readChange(from: ByteReader, tables: ReadTables, code: number): Change {
  switch (code) {
    case MARK_CODES.ink:
      return { kind: 'ink', page: readPageRef(from, tables), stroke: readStroke(from, tables) };
    case MARK_CODES.place:
      return { kind: 'place', page: readPageRef(from, tables), pieces: readPieces(from, tables) };
    case MARK_CODES.alter:
      return { kind: 'alter', page: readPageRef(from, tables), pieces: readPieces(from, tables) };
    case MARK_CODES.lift: {
      const page = readPageRef(from, tables);
      return { kind: 'lift', page, pieceIds: Array.from({ length: from.count() }, () => readId(from, tables)) };
    }
    case MARK_CODES.turn:
      return { kind: 'turn', page: readPageRef(from, tables) };
    case MARK_CODES['add-page']: {
      const after = readPageOrNone(from);
      return { kind: 'add-page', after, page: readPage(from, tables.version) };
    }
    case MARK_CODES['drop-page']:
      return { kind: 'drop-page', page: readPageRef(from, tables) };
    case MARK_CODES['move-page']: {
      const page = readPageRef(from, tables);
      return { kind: 'move-page', page, after: readPageOrNone(from) };
    }
    case MARK_CODES['alter-page']:
      return { kind: 'alter-page', page: readPage(from, tables.version) };
    case MARK_CODES.look: {
      const page = readPageRef(from, tables);
      return { kind: 'look', page, rect: from.byte() === 0 ? null : readRect(from) };
    }
    case MARK_CODES.point: {
      const page = readPageRef(from, tables);
      const pointer = readCode(from, POINTERS);
      return { kind: 'point', page, pointing: { pointer, color: readColor(from), points: readPoints(from) } };
    }
    default:
      throw damaged();
  }
}

function readPageRef(from: ByteReader, tables: ReadTables): PageId {
  return readRef(from, tables.pages, () => from.text() as PageId);
}

function readPageOrNone(from: ByteReader): PageId | null {
  const page = from.text();
  return page === '' ? null : (page as PageId);
}

function readRef<T>(from: ByteReader, table: T[], read: () => T): T {
  const ref = from.unsigned();
  if (ref > table.length) throw damaged();
  if (ref === table.length) table.push(read());
  return table[ref];
}

const readPieces = (from: ByteReader, tables: ReadTables): Piece[] =>
  Array.from({ length: from.count() }, () => readPiece(from, tables));

function readPiece(from: ByteReader, tables: ReadTables): Piece {
  // Before version 2 there were only strokes.
  const code = tables.version === 1 ? PIECE_CODES.stroke : from.byte();
  if (code === PIECE_CODES.stroke) return readStroke(from, tables);
  if (code === PIECE_CODES.picture) return readPicture(from, tables);
  const kind = composedKindOf(code);
  if (!kind) throw damaged();
  return readComposed(from, tables, kind);
}

function readBase(from: ByteReader, tables: ReadTables) {
  const id = readId(from, tables);
  const z = from.unsigned();
  const flags = tables.version < 3 ? 0 : from.byte();
  return { flags, base: { ...NEW, ...(flags & HAS_TRAITS ? readJson(from, tables, traits) : {}), id, z } };
}

function readStroke(from: ByteReader, tables: ReadTables): Stroke {
  const { flags, base } = readBase(from, tables);
  const pen = readRef(from, tables.pens, () => ({
    kind: readCode(from, PEN_KINDS),
    color: readColor(from),
    widthPt: readPt(from),
  }));
  const matrix = flags & HAS_MATRIX ? readMatrix(from) : null;
  return strokeOf(base, { ...base, pen, points: readKnownPoints(from, tables, flags) }, matrix);
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

function readId(from: ByteReader, tables: ReadTables): PieceId {
  if (tables.version < 3) return from.text() as PieceId;
  return readRef(from, tables.ids, () => readIdLetters(from) as PieceId);
}

const readJson = <T>(from: ByteReader, tables: ReadTables, schema: z.ZodType<T>): T =>
  checkedJson(
    readRef(from, tables.texts, () => from.text()),
    schema,
  );

function readComposed(from: ByteReader, tables: ReadTables, kind: ComposedKind): ComposedPiece {
  const { base } = readBase(from, tables);
  const frame = readFrame(from);
  const content = readJson<Contents[ComposedKind]>(from, tables, CONTENTS[kind]);
  return { ...base, kind, frame, content, drawing: readDrawing(from, tables) } as ComposedPiece;
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

/** As version 2 wrote it. */
const readFrameSides = (from: ByteReader) => ({
  xPt: readSignedPt(from),
  yPt: readSignedPt(from),
  widthPt: readPt(from),
  heightPt: readPt(from),
  turnRad: turnOfSteps(from.unsigned()),
});

function readPage(from: ByteReader, version: number): Page {
  const id = from.text() as PageId;
  const size = { widthPt: readPt(from), heightPt: readPt(from) };
  const page = blankPage(id, size, {
    kind: readCode(from, PAPER_KINDS),
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
