import { figurePath } from '../drawing/figure';
import { flattened } from '../drawing/path';
import { pointDistance, strokeTouched } from '../ink/hit';
import { pieceBounds } from './bounds';
import { cornersOf, placeInFrame } from './frame';
import { IDENTITY, movedTo } from './matrix';
import { pictureShowsAt } from './picture';
import type { Piece, ShapePiece, Stroke } from './piece';
import { isWithin } from './polygon';
import { contains, type RectPt } from './rect';

interface PlacePt {
  xPt: number;
  yPt: number;
}

/** The topmost piece at a place of the page, or within a reach of it, if there is one. */
export function pieceAt(pieces: readonly Piece[], at: PlacePt, reachPt: number): Piece | undefined {
  return pieces.findLast((piece) => isTouched(piece, at, reachPt));
}

export function isTouched(piece: Piece, at: PlacePt, reachPt: number): boolean {
  switch (piece.kind) {
    case 'stroke':
      return strokeTouched(piece, at, at, reachPt);
    case 'picture':
      return pictureShowsAt(piece, at);
    case 'shape':
      return isShapeTouched(piece, placeInFrame(piece.frame, at), reachPt);
    case 'text':
    case 'formula':
    case 'plot':
    case 'instrument': {
      const { xPt, yPt } = placeInFrame(piece.frame, at);
      return Math.abs(xPt) <= piece.frame.widthPt / 2 + reachPt && Math.abs(yPt) <= piece.frame.heightPt / 2 + reachPt;
    }
  }
}

/** A filled shape is touched within it; an empty one at its line, or at its text. */
function isShapeTouched({ content, frame, drawing }: ShapePiece, { xPt, yPt }: PlacePt, reachPt: number): boolean {
  const [outline] = flattened(figurePath(content, frame.widthPt, frame.heightPt));
  if (content.fill !== null && isWithin(outline, xPt, yPt)) return true;
  if (Math.abs(xPt) <= drawing.widthPt / 2 && Math.abs(yPt) <= drawing.heightPt / 2) return true;
  const reach = reachPt + content.widthPt / 2;
  for (let i = 2; i < outline.length; i += 2) {
    if (pointDistance(xPt, yPt, outline[i - 2], outline[i - 1], outline[i], outline[i + 1]) <= reach) return true;
  }
  return false;
}

/** The pieces that lie in a rectangle whole. */
export const piecesWithin = (pieces: readonly Piece[], rect: RectPt): Piece[] =>
  pieces.filter((piece) => contains(rect, pieceBounds(piece)));

/** Of ink, more than this share must lie within a loop to be meant. */
const MEANT_SHARE = 0.6;

/** The pieces a loop drawn around them means: most of a stroke's points, all corners of a box. @param loop x, y pairs */
export const piecesInLoop = (pieces: readonly Piece[], loop: readonly number[]): Piece[] =>
  pieces.filter((piece) => {
    const places = piece.kind === 'stroke' ? placesOf(piece) : cornersOf(piece.frame);
    const inside = places.filter(({ xPt, yPt }) => isWithin(loop, xPt, yPt)).length;
    return piece.kind === 'stroke' ? inside > places.length * MEANT_SHARE : inside === places.length;
  });

/** Where a stroke's points lie on the page now. */
export function placesOf({ points, matrix }: Stroke): PlacePt[] {
  return Array.from({ length: points.count }, (_, i) =>
    movedTo(matrix ?? IDENTITY, { xPt: points.xPt[i], yPt: points.yPt[i] }),
  );
}
