import { movedFrame, settledFrame } from './frame';
import { composed, IDENTITY, settledMatrix, type Matrix } from './matrix';
import type { Piece } from './piece';

/** The piece moved, scaled, turned or mirrored with the page. Ink keeps its points and times; its pen's width scales along. */
export function movedPiece<P extends Piece>(piece: P, matrix: Matrix): P {
  if (piece.kind === 'stroke') {
    return { ...piece, matrix: settledMatrix(composed(matrix, piece.matrix ?? IDENTITY)) };
  }
  return { ...piece, frame: settledFrame(movedFrame(piece.frame, matrix), leastSidePt(piece)) };
}

/** A line has no height to speak of. */
const leastSidePt = (piece: Piece): number => (piece.kind === 'shape' || piece.kind === 'instrument' ? 1 : 4);
