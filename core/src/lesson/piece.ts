import type { InkPoints } from '../ink/points';
import type { PieceId } from './ids';

export const PEN_KINDS = ['pen', 'highlighter'] as const;

/** What made a stroke. The colour is `#rrggbb`. */
export interface Pen {
  kind: (typeof PEN_KINDS)[number];
  color: string;
  widthPt: number;
}

/** One pen-down to pen-up. */
export interface Stroke {
  kind: 'stroke';
  id: PieceId;
  /** Place in the page's stacking order; the larger lies on top. It goes with the piece, so undo puts it back. */
  z: number;
  pen: Pen;
  points: InkPoints;
}

/** Anything that lies on a page. */
export type Piece = Stroke;
