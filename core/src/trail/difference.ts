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
    const [gone, come] = differing(old.pieces, now.pieces);
    for (const piece of gone) changed = unionRect(changed, pieceBounds(piece));
    for (const piece of come) changed = unionRect(changed, visibleBounds(piece, after));
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

/** The pieces that only one of two pages has. Pages of one lesson mostly begin alike, and end alike. */
function differing(old: readonly Piece[], now: readonly Piece[]): [gone: Piece[], come: Piece[]] {
  let first = 0;
  while (first < old.length && first < now.length && old[first] === now[first]) first++;
  let last = 0;
  const most = Math.min(old.length, now.length) - first;
  while (last < most && old[old.length - 1 - last] === now[now.length - 1 - last]) last++;
  const [oldRest, nowRest] = [old.slice(first, old.length - last), now.slice(first, now.length - last)];
  const [inOld, inNow] = [new Set(oldRest), new Set(nowRest)];
  return [oldRest.filter((piece) => !inNow.has(piece)), nowRest.filter((piece) => !inOld.has(piece))];
}

function visibleBounds(piece: Piece, moment: Moment): RectPt {
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
