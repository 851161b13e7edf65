import { pieceBounds } from '@kite-trail/core/lesson/bounds';
import { shownPage } from '@kite-trail/core/lesson/scene';
import type { Placement } from '@kite-trail/core/paint/surface';
import type { Moment } from '@kite-trail/core/trail/timeline';

/** Where the pieces that lead somewhere lie, to be touched. */
export function linksOn(moment: Moment, { leftPx, topPx, pxPerPt }: Placement) {
  return shownPage(moment.scene).pieces.flatMap((piece) => {
    if (!piece.link) return [];
    const { left, top, right, bottom } = pieceBounds(piece);
    const style = {
      left: `${leftPx + left * pxPerPt}px`,
      top: `${topPx + top * pxPerPt}px`,
      width: `${(right - left) * pxPerPt}px`,
      height: `${(bottom - top) * pxPerPt}px`,
    };
    return [{ id: piece.id, link: piece.link, style }];
  });
}
