import type { Page } from '../lesson/page';
import type { RectPt } from '../lesson/rect';
import type { Surface } from './surface';

const LINE_WIDTH_PT = 0.75;

/** Paints a page's ground, on a surface already placed in points. */
export function paintPaper(surface: Surface, page: Page, region?: RectPt): void {
  const { paper, widthPt, heightPt } = page;
  surface.fillStyle = paper.color;
  surface.fillRect(0, 0, widthPt, heightPt);
  const left = Math.max(0, region?.left ?? 0);
  const right = Math.min(widthPt, region?.right ?? widthPt);
  const top = Math.max(0, region?.top ?? 0);
  const bottom = Math.min(heightPt, region?.bottom ?? heightPt);
  surface.fillStyle = paper.lineColor;
  if (paper.kind === 'ruled' || paper.kind === 'squared') {
    for (const y of linesWithin(paper.spacingPt, top, bottom, heightPt)) {
      surface.fillRect(0, y - LINE_WIDTH_PT / 2, widthPt, LINE_WIDTH_PT);
    }
  }
  if (paper.kind === 'squared') {
    for (const x of linesWithin(paper.spacingPt, left, right, widthPt)) {
      surface.fillRect(x - LINE_WIDTH_PT / 2, 0, LINE_WIDTH_PT, heightPt);
    }
  }
}

/** Line positions within a stretch; the page's own edges carry none. */
function* linesWithin(spacingPt: number, from: number, to: number, end: number): Generator<number> {
  const first = Math.max(1, Math.floor((from - 2) / spacingPt));
  for (let i = first; i * spacingPt < Math.min(end, to + 2); i++) yield i * spacingPt;
}
