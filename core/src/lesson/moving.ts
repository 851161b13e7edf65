import { movedFrame, storableFrame } from './frame';
import { STEPS_PER_PT } from '../ink/points';
import type { PageId } from './ids';
import type { ArrangedPiece, Change } from './mark';
import { composed, IDENTITY, inverted, isInvertible, storableMatrix, type Matrix } from './matrix';
import type { Piece } from './piece';

/** The piece moved, scaled, turned or mirrored with the page. Ink keeps its points and times; its pen's width scales along. */
export function movedPiece<P extends Piece>(piece: P, matrix: Matrix): P {
  if (piece.kind === 'stroke') {
    return { ...piece, matrix: storableMatrix(composed(matrix, piece.matrix ?? IDENTITY)) };
  }
  return { ...piece, frame: storableFrame(movedFrame(piece.frame, matrix), leastSidePt(piece)) };
}

/** How a piece lies now. */
export const arrangementOf = (piece: Piece): ArrangedPiece =>
  piece.kind === 'stroke'
    ? { id: piece.id, z: piece.z, matrix: piece.matrix }
    : { id: piece.id, z: piece.z, frame: piece.frame };

/** Whether a matrix only shifts, by steps of the grid on which everything lies: so that any number of shifts add up exactly. */
const isShift = ([a, b, c, d, e, f]: Matrix): boolean =>
  a === 1 && b === 0 && c === 0 && d === 1 && Number.isInteger(e * STEPS_PER_PT) && Number.isInteger(f * STEPS_PER_PT);

/**
 * The change that moves pieces further, as while they are dragged: from where a matrix has brought them to where another one
 * would have.
 * @param pieces as they were when it began
 * @param so where they are by now, from there
 */
export function movement(page: PageId, pieces: readonly Piece[], by: Matrix, so: Matrix = IDENTITY): Change {
  const areStrokes = pieces.every(({ kind }) => kind === 'stroke');
  // Boxes lie on a grid and have a least size, so only shifts of them add up; a matrix that flattens cannot be gone on from.
  if ((isShift(by) && isShift(so)) || (areStrokes && isInvertible(so))) {
    const matrix = composed(by, inverted(so));
    return { kind: 'transform', page, pieceIds: pieces.map(({ id }) => id), matrix };
  }
  return { kind: 'arrange', page, pieces: pieces.map((piece) => placeOf(movedPiece(piece, by))) };
}

const placeOf = (piece: Piece): ArrangedPiece =>
  piece.kind === 'stroke' ? { id: piece.id, matrix: piece.matrix } : { id: piece.id, frame: piece.frame };

/** A line has no height to speak of. */
const leastSidePt = (piece: Piece): number => (piece.kind === 'shape' || piece.kind === 'instrument' ? 1 : 4);
