import type { PageId, PieceId } from './ids';
import { pageOf, type Change } from './mark';

/**
 * Whether two changes, made by two windows that did not know of each other, are about the same thing, so that one would
 * silently write over the other. What is new has an id of its own, so it never is; what undo brings back may be.
 */
export function overlaps(one: Change, other: Change): boolean {
  const [a, b] = [reachOf(one), reachOf(other)];
  const own = new Set(a.pieces);
  if (b.pieces.some((piece) => own.has(piece))) return true;
  if (a.page !== null && a.page === b.page) return true;
  return isAboutAll(one, other) || isAboutAll(other, one);
}

/** Whether a page comes or goes with one change that the other one is about. Turning to a page does nothing to it. */
const isAboutAll = (one: Change, other: Change): boolean =>
  (one.kind === 'drop-page' || one.kind === 'add-page') && pageOf(other) === pageOf(one) && other.kind !== 'turn';

/** What a change gives a new state to: pieces, or a page as such. */
function reachOf(change: Change): { pieces: readonly PieceId[]; page: PageId | null } {
  switch (change.kind) {
    case 'ink':
      return { pieces: [change.stroke.id], page: null };
    case 'place':
    case 'alter':
      return { pieces: change.pieces.map((piece) => piece.id), page: null };
    case 'arrange':
      return { pieces: change.pieces.map(({ id }) => id), page: null };
    case 'lift':
    case 'transform':
      return { pieces: change.pieceIds, page: null };
    case 'add-page':
    case 'alter-page':
    case 'move-page':
    case 'drop-page':
      return { pieces: [], page: pageOf(change) };
    case 'turn':
    case 'look':
    case 'point':
    case 'unread':
      return { pieces: [], page: null };
  }
}
