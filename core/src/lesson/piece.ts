import type { InkPoints } from '../ink/points';
import type { Contents } from './content';
import type { Drawing } from '../drawing/drawing';
import type { Frame } from './frame';
import type { AssetId, GroupId, PageId, PieceId } from './ids';
import type { Matrix } from './matrix';

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

/** No ink is broader. */
export const BROADEST_INK_PT = 1000;

/** What made a stroke. The colour is `#rrggbb`. */
export interface Pen {
  kind: (typeof PEN_KINDS)[number];
  color: string;
  widthPt: number;
}

/** Where a touched piece leads a viewer. */
export type Link = { to: 'web'; url: string } | { to: 'page'; page: PageId };

interface PieceBase {
  id: PieceId;
  /** Place in the page's stacking order; the larger lies on top. It goes with the piece, so undo puts it back. */
  z: number;
  /** 0 to 1, besides what its kind of ink has. */
  opacity: number;
  /** What is locked is not taken hold of, so writing on it never moves it. */
  locked: boolean;
  /** Pieces of one group are taken hold of together. */
  group: GroupId | null;
  link: Link | null;
  /** It stays where it is and hands out copies of itself, to be counted out. */
  handsOut: boolean;
}

/** How a piece is when it is new. */
export const NEW = { opacity: 1, locked: false, group: null, link: null, handsOut: false } as const;

const OPACITY_STEPS = 255;
/** A strength as it is stored, in 255ths. */
export const storableOpacity = (opacity: number): number =>
  Math.round(Math.min(1, Math.max(0, opacity)) * OPACITY_STEPS) / OPACITY_STEPS;

/** One pen-down to pen-up. */
export interface Stroke extends PieceBase {
  kind: 'stroke';
  pen: Pen;
  points: InkPoints;
  /** Where the points have been moved to since they were written; `null` where they were never moved. */
  matrix: Matrix | null;
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
}

/**
 * A piece that was described, not drawn by hand: `content` is what the teacher asked for, `drawing` what it looks like,
 * so that nobody who paints it needs fonts, typesetting or arithmetic.
 */
interface Composed<Kind extends keyof Contents> extends PieceBase {
  kind: Kind;
  /** The drawing is stretched to fill it; a shape is drawn to fit it. */
  frame: Frame;
  content: Contents[Kind];
  drawing: Drawing;
}

export type TextPiece = Composed<'text'>;
/** Its drawing is the text in it. */
export type ShapePiece = Composed<'shape'>;
export type FormulaPiece = Composed<'formula'>;
export type PlotPiece = Composed<'plot'>;
/** A ruler or the like that lies on the page while it is used. */
export type InstrumentPiece = Composed<'instrument'>;
export type ComposedPiece = TextPiece | ShapePiece | FormulaPiece | PlotPiece | InstrumentPiece;
export type FramedPiece = Picture | ComposedPiece;

/** Anything that lies on a page. */
export type Piece = Stroke | FramedPiece;

export const WHOLE: Crop = { left: 0, top: 0, right: 1, bottom: 1 };

/**
 * A stroke made from its parts. All strokes have their parts in this order, whoever makes them: browsers go through thousands
 * of things faster that are laid out alike.
 */
export const strokeOf = (
  { opacity, locked, group, link, handsOut }: Omit<PieceBase, 'id' | 'z'>,
  { id, z, pen, points }: Pick<Stroke, 'id' | 'z' | 'pen' | 'points'>,
  matrix: Matrix | null,
): Stroke => ({ opacity, locked, group, link, handsOut, id, z, kind: 'stroke', pen, points, matrix });

export const newStroke = (own: Pick<Stroke, 'id' | 'z' | 'pen' | 'points'>): Stroke => strokeOf(NEW, own, null);
