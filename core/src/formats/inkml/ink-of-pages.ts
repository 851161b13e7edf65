import { isPassing } from '../../lesson/mark';
import type { PieceId } from '../../lesson/ids';
import { pageRect } from '../../lesson/page';
import type { PageState } from '../../lesson/scene';
import { samplesToMs } from '../../trail/clock';
import type { Trail } from '../../trail/trail';
import type { WrittenInk } from './write-inkml';

/** The ink on pages, as it goes out: stroke by stroke, with the time at which each was begun in the trail that made it. */
export function inkOfPages(pages: readonly PageState[], trail: Trail): WrittenInk[] {
  const begun = new Map<PieceId, number>();
  for (const mark of trail.marks) {
    if (mark.kind === 'ink' && !isPassing(mark)) begun.set(mark.stroke.id, samplesToMs(mark.atSamples));
  }
  return pages.map(({ page, pieces }, n) => ({
    title: `Page ${n + 1}`,
    rect: pageRect(page),
    strokes: pieces.flatMap((piece) =>
      piece.kind === 'stroke' ? [{ ...piece, atMs: begun.get(piece.id) ?? null }] : [],
    ),
  }));
}
