import { strokeBounds } from '../ink/bounds';
import { frameBounds } from './frame';
import type { FramedPiece, Piece } from './piece';
import { EMPTY_RECT, growRect, unionRect, type RectPt } from './rect';

/** Arrows' heads and sharp corners reach this many widths of a shape's line beyond its box; its shadow, so many points. */
const REACH_WIDTHS = 3;
const SHADOW_PT = 12;
/** Marks and numbers keep their size on an instrument that is hardly larger; compasses have legs. */
const INSTRUMENT_REACH_PT = 32;
const COMPASSES_RISE_PT = 100;

/** The rectangle all of a piece lies in, with a little room for soft edges. */
export function pieceBounds(piece: Piece): RectPt {
  return piece.kind === 'stroke' ? strokeBounds(piece) : growRect(frameBounds(piece.frame), 1 + reachPt(piece));
}

/** The rectangle all of them lie in. */
export const boundsOf = (pieces: readonly Piece[]): RectPt => pieces.map(pieceBounds).reduce(unionRect, EMPTY_RECT);

function reachPt(piece: FramedPiece): number {
  switch (piece.kind) {
    case 'shape': {
      const { widthPt, shadow, label } = piece.content;
      const labelPt = label ? Math.max(0, piece.drawing.widthPt, piece.drawing.heightPt) / 2 : 0;
      return Math.max(8, widthPt * REACH_WIDTHS) + (shadow ? SHADOW_PT : 0) + labelPt;
    }
    case 'instrument':
      // The circle compasses would draw reaches once more their opening to the left; their legs stand above it.
      return piece.content.instrument === 'compasses'
        ? Math.max(COMPASSES_RISE_PT, piece.frame.widthPt) + 4
        : INSTRUMENT_REACH_PT;
    case 'plot':
    case 'text':
    case 'formula':
      // Letters may lean out of their box.
      return piece.frame.heightPt / 8 + 2;
    case 'picture':
      return 0;
  }
}
