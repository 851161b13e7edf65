import type { z } from 'zod';
import { COORDINATES } from '../drawing/path';
import type { Drawing } from '../drawing/drawing';
import { MOST_PT, type InkPoints } from '../ink/points';
import { CONTENTS, traits } from '../lesson/content';
import type { Frame } from '../lesson/frame';
import { POINTERS, type ArrangedPiece, type Change, type Mark } from '../lesson/mark';
import type { Matrix } from '../lesson/matrix';
import { BROADEST_INK_PT, NEW, PEN_KINDS, type Pen, type Piece, type Stroke } from '../lesson/piece';
import type { RectPt } from '../lesson/rect';
import { page } from './lesson';
import { assetId, color, pageId, PIECE_ID } from './primitives';

/**
 * What a change may be. Whoever makes one, sends one, takes one or reads one asks here, so that whatever is on a page can be
 * written, and whatever is written can be read. Columns of numbers are checked by hand: there are millions of them.
 */

const FAR = 'This would lie too far away from the page. Keep it near.';
const LARGE = 'This would become too large. Make it smaller.';
const ODD = 'This cannot be kept, so it was not made. Try it another way.';
/** Stacking places run out after so many. */
const MOST_Z = 2 ** 40;
const MOST_SINGLE = 3.4e38;

/** Why a change cannot be made, in words for the teacher; `null` where it can. */
export function changeProblem(change: Change): string | null {
  if (change.kind === 'unread') return null;
  if (change.kind === 'add-page')
    return orOf([issueOf(page, change.page), change.after && issueOf(pageId, change.after)]);
  if (change.kind === 'alter-page') return issueOf(page, change.page);
  return issueOf(pageId, change.page) ?? contentProblem(change);
}

/** Why a mark cannot be recorded; `null` where it can. */
export const markProblem = (mark: Mark): string | null =>
  Number.isSafeInteger(mark.atSamples) && mark.atSamples >= 0 ? changeProblem(mark) : ODD;

function contentProblem(change: Exclude<Change, { kind: 'unread' | 'add-page' | 'alter-page' }>): string | null {
  switch (change.kind) {
    case 'ink':
      return pieceProblem(change.stroke);
    case 'place':
    case 'alter':
      return firstProblem(change.pieces, pieceProblem);
    case 'lift':
      return firstProblem(change.pieceIds, idProblem);
    case 'transform':
      return firstProblem(change.pieceIds, idProblem) ?? (change.matrix.every(Number.isFinite) ? null : LARGE);
    case 'arrange':
      return firstProblem(change.pieces, arrangedProblem);
    case 'move-page':
      return change.after === null ? null : issueOf(pageId, change.after);
    case 'look':
      return change.rect && rectProblem(change.rect);
    case 'point': {
      const { pointer, color: of, points } = change.pointing;
      return POINTERS.includes(pointer) ? (issueOf(color, of) ?? pointsProblem(points)) : ODD;
    }
    case 'turn':
    case 'drop-page':
      return null;
  }
}

/** Why a piece cannot be on a page; `null` where it can. */
export function pieceProblem(piece: Piece): string | null {
  const base = idProblem(piece.id) ?? placeProblem(piece.z) ?? traitsProblem(piece);
  if (base) return base;
  switch (piece.kind) {
    case 'stroke':
      return strokeProblem(piece);
    case 'picture': {
      const { crop, cutOut, asset, frame } = piece;
      const fractions = [crop.left, crop.top, crop.right, crop.bottom, ...cutOut];
      const areFractions = fractions.every((one) => one >= 0 && one <= 1) && cutOut.length % 2 === 0;
      return areFractions ? (issueOf(assetId, asset) ?? frameProblem(frame)) : ODD;
    }
    case 'text':
    case 'shape':
    case 'formula':
    case 'plot':
    case 'instrument':
      return (
        issueOf<unknown>(CONTENTS[piece.kind], piece.content) ??
        frameProblem(piece.frame) ??
        drawingProblem(piece.drawing)
      );
  }
}

/** Nearly all pieces are as when they were new. */
const traitsProblem = (piece: Piece): string | null =>
  (Object.keys(NEW) as (keyof typeof NEW)[]).every((trait) => piece[trait] === NEW[trait])
    ? null
    : issueOf(traits, piece);

const strokeProblem = ({ pen, matrix, points }: Stroke): string | null =>
  penProblem(pen) ?? (matrix && matrixProblem(matrix)) ?? pointsProblem(points);

function penProblem(pen: Pen): string | null {
  if (!PEN_KINDS.includes(pen.kind) || !(pen.widthPt >= 0 && pen.widthPt <= BROADEST_INK_PT)) return ODD;
  return issueOf(color, pen.color);
}

function pointsProblem({ count, xPt, yPt, pressure, sinceMs }: InkPoints): string | null {
  if (count === 0) return ODD;
  for (let i = 0; i < count; i++) {
    if (!isNear(xPt[i]) || !isNear(yPt[i])) return FAR;
    if (!(pressure[i] >= 0 && pressure[i] <= 1) || (i > 0 && sinceMs[i] < sinceMs[i - 1])) return ODD;
  }
  return null;
}

function arrangedProblem({ id, z: place, matrix, frame }: ArrangedPiece): string | null {
  return (
    idProblem(id) ??
    (place === undefined ? null : placeProblem(place)) ??
    (matrix ? matrixProblem(matrix) : null) ??
    (frame ? frameProblem(frame) : null)
  );
}

function frameProblem({ xPt, yPt, widthPt, heightPt, turnRad }: Frame): string | null {
  if (!isNear(xPt) || !isNear(yPt) || !Number.isFinite(turnRad)) return FAR;
  return widthPt >= 0 && heightPt >= 0 && isNear(widthPt) && isNear(heightPt) ? null : LARGE;
}

function drawingProblem({ widthPt, heightPt, letters, lines }: Drawing): string | null {
  const sizes = [widthPt, heightPt, ...letters.map(({ sizePt }) => sizePt), ...lines.map((line) => line.widthPt)];
  if (!sizes.every((one) => one >= 0 && isNear(one))) return LARGE;
  const places = letters.flatMap(({ xPt, yPt }) => [xPt, yPt]);
  if (!places.every(isNear)) return FAR;
  const paths = [...letters.map(({ outline }) => outline), ...lines.map(({ path }) => path)];
  if (!paths.every((path) => isPath(path))) return ODD;
  return firstProblem(lines, (line) => (line.color === null ? null : issueOf(color, line.color)));
}

function isPath(path: readonly number[]): boolean {
  let at = 0;
  while (at < path.length) {
    const coordinates = COORDINATES[path[at]];
    if (coordinates === undefined || !path.slice(at + 1, at + 1 + coordinates).every(isNear)) return false;
    at += 1 + coordinates;
  }
  return at === path.length;
}

const rectProblem = ({ left, top, right, bottom }: RectPt): string | null =>
  [left, top, right, bottom].every(isNear) ? null : FAR;
const isNear = (pt: number): boolean => Math.abs(pt) <= MOST_PT;
const matrixProblem = (matrix: Matrix): string | null =>
  matrix.every((value) => Math.abs(value) <= MOST_SINGLE) ? null : LARGE;
const placeProblem = (place: number): string | null =>
  Number.isSafeInteger(place) && Math.abs(place) <= MOST_Z ? null : ODD;
/** Of thousands at a time, while they are dragged. */
const idProblem = (id: string): string | null => (PIECE_ID.test(id) ? null : ODD);

function firstProblem<T>(all: readonly T[], problemOf: (one: T) => string | null): string | null {
  for (const one of all) {
    const problem = problemOf(one);
    if (problem) return problem;
  }
  return null;
}

const orOf = (problems: readonly (string | null)[]): string | null => problems.find((one) => one) ?? null;

/** A schema's own messages are for teachers; where it has none, the general one is. */
function issueOf<T>(schema: z.ZodType<T>, value: unknown): string | null {
  const checked = schema.safeParse(value);
  if (checked.success) return null;
  const [{ message }] = checked.error.issues;
  return /^(Too|Invalid|Unrecognized)/.test(message) ? ODD : message;
}
