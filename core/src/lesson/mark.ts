import { SAMPLES_PER_MS } from '../trail/clock';
import type { InkPoints } from '../ink/points';
import type { Frame } from './frame';
import type { Matrix } from './matrix';
import type { Page } from './page';
import type { Piece, Stroke } from './piece';
import type { RectPt } from './rect';
import type { PageId, PieceId } from './ids';
import type { Unread } from './unread';

/** One change to the lesson with its time, counted in samples from the start of its take (or trail). */
export type Mark = { atSamples: number } & Change;

/** What a mark changes. A change that names a page or piece which is not there does nothing. */
export type Change =
  /** A stroke written by hand: it begins at the mark's time and grows as its points' times say. */
  | { kind: 'ink'; page: PageId; stroke: Stroke }
  /** Pieces that are there whole at once, such as erased ones put back; with what of them could not be read. */
  | { kind: 'place'; page: PageId; pieces: readonly Piece[]; unread?: readonly Unread[] }
  /** Pieces taken off the page. */
  | { kind: 'lift'; page: PageId; pieceIds: readonly PieceId[] }
  /** Pieces in a new state: each takes the place of the one that has its id. */
  | { kind: 'alter'; page: PageId; pieces: readonly Piece[]; unread?: readonly Unread[] }
  /** Pieces moved, turned, scaled or mirrored together, from wherever they lie. */
  | { kind: 'transform'; page: PageId; pieceIds: readonly PieceId[]; matrix: Matrix }
  /** Pieces each in a place of its own: in the stacking order, or where it lies. */
  | { kind: 'arrange'; page: PageId; pieces: readonly ArrangedPiece[] }
  /** The page now shown. */
  | { kind: 'turn'; page: PageId }
  /** A new page, put after another one (or first, after `null`). */
  | { kind: 'add-page'; page: Page; after: PageId | null }
  /** A page taken out, with all that lies on it. The last one stays. */
  | { kind: 'drop-page'; page: PageId }
  /** A page put after another one (or first, after `null`). */
  | { kind: 'move-page'; page: PageId; after: PageId | null }
  /** The page of the same id in a new state: its size, paper or sheet. */
  | { kind: 'alter-page'; page: Page }
  /** The part of the page that is looked at; `null` for all of it. Turning to a page shows all of it. */
  | { kind: 'look'; page: PageId; rect: RectPt | null }
  /** Something pointed at. It leaves nothing on the page. */
  | { kind: 'point'; page: PageId; pointing: Pointing }
  /** A change that this program could not read. It changes nothing, and is kept. */
  | { kind: 'unread'; raw: Unread };

/** Where a piece is put; what is not said stays as it is. */
export interface ArrangedPiece {
  id: PieceId;
  z?: number;
  /** Of a stroke; `null` for where it was written. */
  matrix?: Matrix | null;
  /** Of all others. */
  frame?: Frame;
}

/** In the order of their codes in stored bytes; new ones go at the end. */
export const POINTERS = ['dot', 'spotlight', 'arrow', 'magnifier'] as const;
export type Pointer = (typeof POINTERS)[number];

/** Where the teacher pointed, and when. */
export interface Pointing {
  pointer: Pointer;
  color: string;
  points: InkPoints;
}

/** A change that may be of such a kind. */
export type PassingChange = Extract<Change, { kind: 'ink' | 'point' }>;

/** Whether a change is seen for a while and leaves nothing on the page: something pointed at, or fading ink. */
export const isPassing = (change: Change): boolean =>
  change.kind === 'point' || (change.kind === 'ink' && change.stroke.pen.kind === 'fading');

/** The page a change is about; `null` where that is not known. */
export function pageOf(change: Change): PageId | null {
  if (change.kind === 'unread') return null;
  return change.kind === 'add-page' || change.kind === 'alter-page' ? change.page.id : change.page;
}

/** How many things in changes could not be read. */
export const unreadAmong = (changes: readonly Change[]): number =>
  changes.reduce((sum, change) => {
    if (change.kind === 'unread') return sum + 1;
    return sum + (change.kind === 'place' || change.kind === 'alter' ? (change.unread?.length ?? 0) : 0);
  }, 0);

/** The mark's end: for ink, when its last point was written. */
export function markEndSamples(mark: Mark): number {
  return mark.atSamples + (pointsOf(mark)?.lengthMs ?? 0) * SAMPLES_PER_MS;
}

/** What a hand moved along while the change went on. */
export const pointsOf = (change: Change): InkPoints | null =>
  change.kind === 'ink' ? change.stroke.points : change.kind === 'point' ? change.pointing.points : null;

/** The same change with its points on another time scale. */
export function retimed<C extends Change>(change: C, toSinceMs: (sinceMs: number) => number): C {
  if (change.kind === 'ink') {
    return { ...change, stroke: { ...change.stroke, points: change.stroke.points.retimed(toSinceMs) } };
  }
  if (change.kind === 'point') {
    return { ...change, pointing: { ...change.pointing, points: change.pointing.points.retimed(toSinceMs) } };
  }
  return change;
}
