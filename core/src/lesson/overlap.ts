import type { PageId, PieceId } from './ids';
import { pageOf, type Change } from './mark';

/**
 * Whether two changes, made by two windows that did not know of each other, are about the same thing, so that one would
 * silently write over the other. New ink, new pieces and new pages never are.
 */
export function overlaps(one: Change, other: Change): boolean {
  const [a, b] = [reachOf(one), reachOf(other)];
  if (a.pieces.some((piece) => b.pieces.includes(piece))) return true;
  if (a.page !== null && a.page === b.page) return true;
  return (
    (one.kind === 'drop-page' && pageOf(other) === one.page && other.kind !== 'turn') ||
    (other.kind === 'drop-page' && pageOf(one) === other.page && one.kind !== 'turn')
  );
}

/** What a change gives a new state to: pieces, or a page as such. */
function reachOf(change: Change): { pieces: readonly PieceId[]; page: PageId | null } {
  switch (change.kind) {
    case 'alter':
      return { pieces: change.pieces.map((piece) => piece.id), page: null };
    case 'lift':
      return { pieces: change.pieceIds, page: null };
    case 'alter-page':
    case 'move-page':
    case 'drop-page':
      return { pieces: [], page: pageOf(change) };
    case 'ink':
    case 'place':
    case 'turn':
    case 'look':
    case 'point':
    case 'add-page':
      return { pieces: [], page: null };
  }
}
