import { inkBounds } from '../ink/bounds';
import { pieceBounds } from '../lesson/bounds';
import { passingBounds } from '../paint/passing';
import type { Piece } from '../lesson/piece';
import { EMPTY_RECT, unionRect, type RectPt } from '../lesson/rect';
import { shownPage } from '../lesson/scene';
import type { Moment } from './timeline';

/** How far back from the pen's tip a growing outline may still change shape, in points of the stroke. */
const UNSETTLED_POINTS = 14;

/** What looks different between two moments: a rectangle of the page shown (maybe empty), or the whole picture. */
export type Difference = RectPt | 'whole';

/** Where the picture of one moment differs from that of another. */
export function differenceBetween(before: Moment, after: Moment): Difference {
  const old = shownPage(before.scene);
  const now = shownPage(after.scene);
  if (old.page !== now.page || before.scene.look !== after.scene.look) return 'whole';
  let changed = EMPTY_RECT;
  if (old.pieces !== now.pieces) {
    const oldPieces = new Set(old.pieces);
    const nowPieces = new Set(now.pieces);
    for (const piece of old.pieces) if (!nowPieces.has(piece)) changed = unionRect(changed, pieceBounds(piece));
    for (const piece of now.pieces) if (!oldPieces.has(piece)) changed = unionRect(changed, shownBounds(piece, after));
  }
  for (const passing of [...before.passing, ...after.passing]) {
    changed = unionRect(changed, passingBounds(passing, now.page));
  }
  for (const piece of now.pieces.slice(firstUnsettled(now.pieces, before, after))) {
    if (piece.kind !== 'stroke') continue;
    const was = before.growing.get(piece.id) ?? piece.points.count;
    const is = after.growing.get(piece.id) ?? piece.points.count;
    if (was === is) continue;
    const from = Math.min(was, is) - UNSETTLED_POINTS;
    changed = unionRect(changed, inkBounds(piece, from, Math.max(was, is)));
  }
  return changed;
}

function shownBounds(piece: Piece, moment: Moment): RectPt {
  const count = moment.growing.get(piece.id);
  return count === undefined || piece.kind !== 'stroke' ? pieceBounds(piece) : inkBounds(piece, 0, count);
}

/** Growing pieces lie near the top, so all below the first of them are skipped. */
function firstUnsettled(pieces: readonly Piece[], before: Moment, after: Moment): number {
  let left = before.growing.size + after.growing.size;
  let at = pieces.length;
  while (at > 0 && left > 0) {
    at--;
    if (before.growing.has(pieces[at].id)) left--;
    if (after.growing.has(pieces[at].id)) left--;
  }
  return at;
}
