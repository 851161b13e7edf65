import type { Change, Mark } from './mark';
import { composed } from './matrix';

/**
 * A change with the one that came next, where that only goes on with it, as while something is dragged; else `null`.
 * The first of the two is then needed no more.
 */
export function followed(first: Change, next: Change): Change | null {
  if (first.kind === 'alter' && next.kind === 'alter') {
    return first.page === next.page && haveSame(first.pieces, next.pieces) ? next : null;
  }
  if (first.kind === 'arrange' && next.kind === 'arrange') {
    const isWhole = first.pieces.every((piece, i) =>
      Object.keys(piece).every((part) => part in (next.pieces[i] ?? {})),
    );
    return first.page === next.page && haveSame(first.pieces, next.pieces) && isWhole ? next : null;
  }
  if (first.kind === 'transform' && next.kind === 'transform') {
    const areSame = first.page === next.page && first.pieceIds.join(' ') === next.pieceIds.join(' ');
    return areSame ? { ...next, matrix: composed(next.matrix, first.matrix) } : null;
  }
  return null;
}

const haveSame = (one: readonly { id: string }[], other: readonly { id: string }[]): boolean =>
  one.length === other.length && one.every(({ id }, i) => id === other[i].id);

/** Marks with one more. While something is dragged, each new state of it takes the place of the one before. */
export function withNext(marks: readonly Mark[], mark: Mark): readonly Mark[] {
  const last = marks.at(-1);
  const both = last && followed(last, mark);
  return both ? [...marks.slice(0, -1), { ...both, atSamples: mark.atSamples }] : [...marks, mark];
}
