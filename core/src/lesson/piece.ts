import type { InkPoints } from '../ink/points';
import type { AssetId, PieceId } from './ids';

/** In the order of their codes in stored bytes; new ones go at the end. The ink of `fading` goes again by itself. */
export const PEN_KINDS = [
  'pen',
  'highlighter',
  'ballpoint',
  'fountain',
  'pencil',
  'marker',
  'dashed',
  'fading',
] as const;

/** What made a stroke. The colour is `#rrggbb`. */
export interface Pen {
  kind: (typeof PEN_KINDS)[number];
  color: string;
  widthPt: number;
}

interface PieceBase {
  id: PieceId;
  /** Place in the page's stacking order; the larger lies on top. It goes with the piece, so undo puts it back. */
  z: number;
}

/** One pen-down to pen-up. */
export interface Stroke extends PieceBase {
  kind: 'stroke';
  pen: Pen;
  points: InkPoints;
}

/** A box on the page, turned about its middle. */
export interface Frame {
  xPt: number;
  yPt: number;
  widthPt: number;
  heightPt: number;
  /** Clockwise. */
  turnRad: number;
  /** Left and right change places, before it is turned. */
  mirrored: boolean;
}

/** The part of a picture that is shown, in fractions of its width and height. */
export interface Crop {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** A picture brought in from outside. */
export interface Picture extends PieceBase {
  kind: 'picture';
  asset: AssetId;
  /** Where the part that is shown lies. */
  frame: Frame;
  crop: Crop;
  /** Only what lies within this closed line is shown: x, y pairs in fractions of the whole picture; empty for all of it. */
  cutOut: Float32Array;
  /** 0 to 1. */
  opacity: number;
  /** A locked picture is not taken hold of, so writing on it never moves it. */
  locked: boolean;
}

/** Anything that lies on a page. */
export type Piece = Stroke | Picture;

export const WHOLE: Crop = { left: 0, top: 0, right: 1, bottom: 1 };
