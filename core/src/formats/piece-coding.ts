import type { Drawing } from '../drawing/drawing';
import type { InkPoints } from '../ink/points';
import { CONTENTS, traits, type ComposedKind, type Contents } from '../lesson/content';
import type { AssetId, PageId, PieceId } from '../lesson/ids';
import {
  NEW,
  PEN_KINDS,
  type ComposedPiece,
  type FramedPiece,
  type Pen,
  type Picture,
  type Piece,
  strokeOf,
  type Stroke,
} from '../lesson/piece';
import type { ByteReader, ByteWriter } from './bytes';
import { damaged } from './bytes';
import { composedKindOf, PIECE_CODES } from './codes';
import {
  readCode,
  readColor,
  readFraction,
  readFrame,
  readIdLetters,
  readMatrix,
  readPath,
  readPt,
  readSignedPt,
  writeCode,
  writeColor,
  writeFraction,
  writeFrame,
  writeIdLetters,
  writeMatrix,
  writePath,
  writePt,
  writeSignedPt,
} from './elements';
import { readInk, writeInk } from './ink-coding';
import type { ReadTables, WriteTables } from './tables';

/** Flags of a piece. */
const HAS_TRAITS = 1;
const HAS_MATRIX = 2;
const HAS_NUMBERED_POINTS = 4;
/** What a piece's record is said to be. 0 is something carried along unread. */
export const pieceCode = (piece: Piece): number => PIECE_CODES[piece.kind];

/** Writes a piece's record, without its code. */
export function writePiece(out: ByteWriter, tables: WriteTables, piece: Piece): void {
  if (piece.kind === 'stroke') writeStroke(out, tables, piece);
  else writeFramed(out, tables, piece);
}

/** @throws FormatError where the record cannot be read, or is of no kind that is known */
export function readPiece(from: ByteReader, tables: ReadTables, code: number): Piece {
  if (code === PIECE_CODES.stroke) return readStroke(from, tables);
  if (code === PIECE_CODES.picture) return readPicture(from, tables);
  const kind = composedKindOf(code);
  if (!kind) throw damaged();
  return readComposed(from, tables, kind);
}

/** What every piece has: its id, its place in the stacking order, a byte of flags, and what sets it apart. */
function writeBase(out: ByteWriter, tables: WriteTables, piece: Piece, flags = 0): void {
  const { opacity, locked, group, link, handsOut } = piece;
  const isNew = opacity === 1 && !locked && group === null && link === null && !handsOut;
  writeId(out, tables, piece.id);
  out.signed(piece.z);
  out.byte(flags | (isNew ? 0 : HAS_TRAITS));
  if (!isNew) out.unsigned(tables.numberOfJson({ opacity, locked, group, link, handsOut }));
}

function readBase(from: ByteReader, tables: ReadTables) {
  const id = readId<PieceId>(from, tables);
  const z = from.signed();
  const flags = from.byte();
  const apart = flags & HAS_TRAITS ? tables.json(from.unsigned(), traits) : {};
  return { flags, base: { ...NEW, ...apart, id, z } };
}

function writeStroke(out: ByteWriter, tables: WriteTables, stroke: Stroke): void {
  const { pen, matrix, points } = stroke;
  const isInTable = tables.areRepeated(points);
  writeBase(out, tables, stroke, (matrix ? HAS_MATRIX : 0) | (isInTable ? HAS_NUMBERED_POINTS : 0));
  const penNumber = tables.numberOf('pens', `${pen.kind} ${pen.color} ${pen.widthPt}`, (entry) => {
    writeCode(entry, PEN_KINDS, pen.kind);
    writeColor(entry, pen.color);
    writePt(entry, pen.widthPt);
  });
  out.unsigned(penNumber);
  if (matrix) writeMatrix(out, matrix);
  if (isInTable) out.unsigned(tables.numberOfPoints(points, (entry) => writeInk(entry, points)));
  else writeInk(out, points);
}

function readStroke(from: ByteReader, tables: ReadTables): Stroke {
  const { flags, base } = readBase(from, tables);
  const pen = tables.entry('pens', from.unsigned(), (entry): Pen => ({
    kind: readCode(entry, PEN_KINDS),
    color: readColor(entry),
    widthPt: readPt(entry),
  }));
  const matrix = flags & HAS_MATRIX ? readMatrix(from) : null;
  const points =
    flags & HAS_NUMBERED_POINTS ? tables.entry<InkPoints>('points', from.unsigned(), readInk) : readInk(from);
  return strokeOf(base, { ...base, pen, points }, matrix);
}

/** An id is one more than its number in the table, or 0 and the id itself. */
export function writeId(out: ByteWriter, tables: WriteTables, id: string): void {
  if (tables.isRepeatedId(id)) {
    out.unsigned(tables.numberOf('ids', id, (entry) => writeIdLetters(entry, id)) + 1);
  } else {
    out.unsigned(0);
    writeIdLetters(out, id);
  }
}

export function readId<Id extends PieceId | PageId>(from: ByteReader, tables: ReadTables): Id {
  const number = from.unsigned();
  return (number === 0 ? readIdLetters(from) : tables.entry('ids', number - 1, readIdLetters)) as Id;
}

function writeFramed(out: ByteWriter, tables: WriteTables, piece: FramedPiece): void {
  writeBase(out, tables, piece);
  writeFrame(out, piece.frame);
  if (piece.kind === 'picture') return writePicture(out, tables, piece);
  out.unsigned(tables.numberOfJson(piece.content));
  out.unsigned(numberOfDrawing(tables, piece.drawing));
}

function readComposed(from: ByteReader, tables: ReadTables, kind: ComposedKind): ComposedPiece {
  const { base } = readBase(from, tables);
  const frame = readFrame(from);
  const content = tables.json<Contents[ComposedKind]>(from.unsigned(), CONTENTS[kind]);
  return { ...base, kind, frame, content, drawing: readDrawing(from, tables) } as ComposedPiece;
}

const drawingKeys = new WeakMap<Drawing, string>();

function numberOfDrawing(tables: WriteTables, drawing: Drawing): number {
  const key = drawingKeys.get(drawing) ?? JSON.stringify(drawing);
  drawingKeys.set(drawing, key);
  return tables.numberOf('drawings', key, (entry) => {
    writePt(entry, drawing.widthPt);
    writePt(entry, drawing.heightPt);
    entry.unsigned(drawing.letters.length);
    for (const { outline, xPt, yPt, sizePt } of drawing.letters) {
      const number = tables.numberOf('outlines', outline.join(), (units) =>
        writePath(units, outline, (unit) => units.signed(unit)),
      );
      entry.unsigned(number);
      writeSignedPt(entry, xPt);
      writeSignedPt(entry, yPt);
      writePt(entry, sizePt);
    }
    entry.unsigned(drawing.lines.length);
    for (const { path, color, widthPt } of drawing.lines) {
      writePath(entry, path, (pt) => writeSignedPt(entry, pt));
      entry.byte(color ? 1 : 0);
      if (color) writeColor(entry, color);
      writePt(entry, widthPt);
    }
  });
}

const readDrawing = (from: ByteReader, tables: ReadTables): Drawing =>
  tables.entry('drawings', from.unsigned(), (entry) => ({
    widthPt: readPt(entry),
    heightPt: readPt(entry),
    letters: Array.from({ length: entry.count() }, () => ({
      outline: tables.entry('outlines', entry.unsigned(), (units) => readPath(units, () => units.signed())),
      xPt: readSignedPt(entry),
      yPt: readSignedPt(entry),
      sizePt: readPt(entry),
    })),
    lines: Array.from({ length: entry.count() }, () => ({
      path: readPath(entry, () => readSignedPt(entry)),
      color: entry.byte() === 0 ? null : readColor(entry),
      widthPt: readPt(entry),
    })),
  }));

function writePicture(out: ByteWriter, tables: WriteTables, { asset, crop, cutOut }: Picture): void {
  out.unsigned(tables.numberOf('assets', asset, (entry) => entry.ascii(asset)));
  for (const edge of [crop.left, crop.top, crop.right, crop.bottom]) writeFraction(out, edge);
  const number = tables.numberOf('cutOuts', cutOut.join(), (entry) =>
    cutOut.forEach((fraction) => writeFraction(entry, fraction)),
  );
  out.unsigned(number);
}

function readPicture(from: ByteReader, tables: ReadTables): Picture {
  const { base } = readBase(from, tables);
  const frame = readFrame(from);
  const asset = tables.entry('assets', from.unsigned(), (entry) => entry.rest() as AssetId);
  const [left, top, right, bottom] = Array.from({ length: 4 }, () => readFraction(from));
  const cutOut = tables.entry('cutOuts', from.unsigned(), (entry) => {
    const fractions: number[] = [];
    while (entry.left > 0) fractions.push(readFraction(entry));
    return Float32Array.from(fractions);
  });
  return { ...base, kind: 'picture', asset, frame, crop: { left, top, right, bottom }, cutOut };
}
