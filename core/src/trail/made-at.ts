import type { PieceId } from '../lesson/ids';
import { pieceAt } from '../lesson/touch';
import type { Moment } from './timeline';
import { shownPage } from '../lesson/scene';
import type { Trail } from './trail';

/** When each piece that is made in the course of a trail was begun. What lay there before has no moment. */
export function momentsOfMaking({ marks }: Trail): ReadonlyMap<PieceId, number> {
  const made = new Map<PieceId, number>();
  for (const mark of marks) {
    const pieces = mark.kind === 'ink' ? [mark.stroke] : mark.kind === 'place' ? mark.pieces : [];
    for (const { id } of pieces) if (mark.atSamples > 0 && !made.has(id)) made.set(id, mark.atSamples);
  }
  return made;
}

/**
 * When the topmost mark at a place of the shown page was made, or `null` where none is that was made in the course of the trail.
 * @param at in points of the page, within `reachPt` of the mark
 */
export function madeAt(
  moments: ReadonlyMap<PieceId, number>,
  { scene }: Moment,
  at: { xPt: number; yPt: number },
  reachPt: number,
): number | null {
  const pieces = shownPage(scene).pieces.filter(({ id }) => moments.has(id));
  // Who touches a mark means that one, even where another is within reach above it.
  const touched = pieceAt(pieces, at, 0) ?? pieceAt(pieces, at, reachPt);
  return touched ? moments.get(touched.id)! : null;
}
