import { COORDINATES, MOVE, type Path } from '../drawing/path';
import { turnOfSteps, turnSteps, type Frame } from '../lesson/frame';
import type { Matrix } from '../lesson/matrix';
import { FRACTION_STEPS } from '../lesson/picture';
import type { RectPt } from '../lesson/rect';
import { STEPS_PER_PT } from '../ink/points';
import { damaged, type ByteReader, type ByteWriter } from './bytes';

/** The small things that all stored bytes are made of, alike in every version. */

export const writePt = (out: ByteWriter, pt: number) => out.unsigned(Math.round(pt * STEPS_PER_PT));
export const readPt = (from: ByteReader) => from.unsigned() / STEPS_PER_PT;
export const writeSignedPt = (out: ByteWriter, pt: number) => out.signed(Math.round(pt * STEPS_PER_PT));
export const readSignedPt = (from: ByteReader) => from.signed() / STEPS_PER_PT;
export const writeFraction = (out: ByteWriter, fraction: number) => out.unsigned(Math.round(fraction * FRACTION_STEPS));
export const readFraction = (from: ByteReader) => from.unsigned() / FRACTION_STEPS;

/** @throws RangeError where it is not `#rrggbb` */
export function writeColor(out: ByteWriter, color: string): void {
  if (!/^#[0-9a-f]{6}$/.test(color)) throw new RangeError(`${color} is no colour.`);
  for (let i = 1; i < 7; i += 2) out.byte(parseInt(color.slice(i, i + 2), 16));
}

export function readColor(from: ByteReader): string {
  let color = '#';
  for (let i = 0; i < 3; i++) color += from.byte().toString(16).padStart(2, '0');
  return color;
}

/** A member of a list, by its place there. */
export function writeCode<T>(out: ByteWriter, all: readonly T[], one: T): void {
  out.byte(all.indexOf(one));
}

/** @throws FormatError for one that is not known: it is never read as another */
export function readCode<T>(from: ByteReader, all: readonly T[]): T {
  const code = from.byte();
  if (code >= all.length) throw damaged();
  return all[code];
}

/** Turn and mirroring share a number. */
export function writeFrame(out: ByteWriter, { xPt, yPt, widthPt, heightPt, turnRad, mirrored }: Frame): void {
  writeSignedPt(out, xPt);
  writeSignedPt(out, yPt);
  writePt(out, widthPt);
  writePt(out, heightPt);
  out.unsigned(turnSteps(turnRad) * 2 + (mirrored ? 1 : 0));
}

export function readFrame(from: ByteReader): Frame {
  const sides = { xPt: readSignedPt(from), yPt: readSignedPt(from), widthPt: readPt(from), heightPt: readPt(from) };
  const turn = from.unsigned();
  return { ...sides, turnRad: turnOfSteps(Math.floor(turn / 2)), mirrored: turn % 2 === 1 };
}

export const writeMatrix = (out: ByteWriter, matrix: Matrix) => matrix.forEach((value) => out.float(value));
export const readMatrix = (from: ByteReader): Matrix =>
  Array.from({ length: 6 }, () => from.float()) as unknown as Matrix;

export function writeRect(out: ByteWriter, { left, top, right, bottom }: RectPt): void {
  for (const side of [left, top, right, bottom]) writeSignedPt(out, side);
}

export const readRect = (from: ByteReader): RectPt => ({
  left: readSignedPt(from),
  top: readSignedPt(from),
  right: readSignedPt(from),
  bottom: readSignedPt(from),
});

export function writePath(out: ByteWriter, path: Path, write: (value: number) => void): void {
  out.unsigned(path.length);
  let next = 0;
  path.forEach((value, i) => {
    if (i !== next) return write(value);
    out.byte(value);
    next += 1 + COORDINATES[value];
  });
}

export function readPath(from: ByteReader, read: () => number): Path {
  const length = from.count();
  const path: number[] = [];
  while (path.length < length) {
    const command = from.byte();
    const coordinates = COORDINATES[command];
    if (coordinates === undefined || (path.length === 0 && command !== MOVE)) throw damaged();
    path.push(command);
    for (let left = coordinates; left > 0; left--) path.push(read());
  }
  if (path.length !== length) throw damaged();
  return path;
}

/** RFC 4648, section 5. */
const ID_LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_';
const PACKED_ID_LETTERS = 12;

/** Ids are mostly twelve letters of an alphabet of 64, which take nine bytes behind an empty text; others are a text. */
export function writeIdLetters(out: ByteWriter, id: string): void {
  const codes = Array.from(id, (letter) => ID_LETTERS.indexOf(letter));
  if (codes.length !== PACKED_ID_LETTERS || codes.includes(-1)) return out.text(id);
  out.text('');
  for (let i = 0; i < codes.length; i += 4) {
    const bits = (codes[i] << 18) | (codes[i + 1] << 12) | (codes[i + 2] << 6) | codes[i + 3];
    for (const shift of [16, 8, 0]) out.byte((bits >> shift) & 255);
  }
}

export function readIdLetters(from: ByteReader): string {
  const id = from.text();
  if (id !== '') return id;
  let letters = '';
  for (let i = 0; i < PACKED_ID_LETTERS; i += 4) {
    const bits = (from.byte() << 16) | (from.byte() << 8) | from.byte();
    for (const shift of [18, 12, 6, 0]) letters += ID_LETTERS[(bits >> shift) & 63];
  }
  return letters;
}
