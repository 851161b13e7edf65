import { SAMPLES_PER_MS } from '../trail/clock';
import type { Page } from './page';
import type { Piece, Stroke } from './piece';
import type { PageId, PieceId } from './ids';

/** One change to the lesson with its time, counted in samples from the start of its take (or trail). */
export type Mark = { atSamples: number } & Change;

/** What a mark changes. A change that names a page or piece which is not there does nothing. */
export type Change =
  /** A stroke written by hand: it begins at the mark's time and grows as its points' times say. */
  | { kind: 'ink'; page: PageId; stroke: Stroke }
  /** Pieces that are there whole at once, such as erased ones put back. */
  | { kind: 'place'; page: PageId; pieces: readonly Piece[] }
  /** Pieces taken off the page. */
  | { kind: 'lift'; page: PageId; pieceIds: readonly PieceId[] }
  /** Pieces in a new state: each takes the place of the one that has its id. */
  | { kind: 'alter'; page: PageId; pieces: readonly Piece[] }
  /** The page now shown. */
  | { kind: 'turn'; page: PageId }
  /** A new page, put after another one (or first, after `null`). */
  | { kind: 'add-page'; page: Page; after: PageId | null }
  /** A page taken out, with all that lies on it. The last one stays. */
  | { kind: 'drop-page'; page: PageId }
  /** A page put after another one (or first, after `null`). */
  | { kind: 'move-page'; page: PageId; after: PageId | null }
  /** The page of the same id in a new state: its size, paper or sheet. */
  | { kind: 'alter-page'; page: Page };

/** The page a change is about. */
export const pageOf = (change: Change): PageId =>
  change.kind === 'add-page' || change.kind === 'alter-page' ? change.page.id : change.page;

/** The mark's end: for ink, when its last point was written. */
export function markEndSamples(mark: Mark): number {
  return mark.kind === 'ink' ? mark.atSamples + strokeSamples(mark.stroke) : mark.atSamples;
}

function strokeSamples(stroke: Stroke): number {
  return stroke.points.lengthMs * SAMPLES_PER_MS;
}
