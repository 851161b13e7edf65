import { strokeBounds } from '../ink/bounds';
import { frameBounds } from './picture';
import type { Piece } from './piece';
import { growRect, type RectPt } from './rect';

/** The rectangle all of a piece lies in, with a little room for soft edges. */
export function pieceBounds(piece: Piece): RectPt {
  return piece.kind === 'stroke' ? strokeBounds(piece) : growRect(frameBounds(piece.frame), 1);
}
