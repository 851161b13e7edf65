import type { Page } from '../lesson/page';
import type { PixelRect } from './painter';
import { fitPage, type Placement } from './surface';

/** Small pictures side by side on one sheet. */
export interface ContactSheet {
  widthPx: number;
  heightPx: number;
  /** Where each page lies on it, in reading order. */
  pages: readonly { placement: Placement; box: PixelRect }[];
}

const MOST_ACROSS = 6;
const GAP_SHARE = 0.012;

/** How pages lie on a contact sheet of some width: about as many beside as below one another, each as large as its place lets it. */
export function contactSheet(pages: readonly Page[], widthPx: number): ContactSheet {
  const across = Math.max(1, Math.min(MOST_ACROSS, Math.ceil(Math.sqrt(pages.length))));
  const gapPx = Math.max(1, Math.round(widthPx * GAP_SHARE));
  const cellPx = Math.floor((widthPx - (across + 1) * gapPx) / across);
  // A row is as high as its highest page.
  const rows = Array.from({ length: Math.ceil(pages.length / across) }, (_, n) =>
    pages.slice(n * across, (n + 1) * across),
  );
  let topPx = gapPx;
  const placed = rows.flatMap((row) => {
    const heightPx = Math.ceil(Math.max(...row.map((page) => (cellPx * page.heightPt) / page.widthPt)));
    const top = topPx;
    topPx += heightPx + gapPx;
    return row.map((page, n) => placedIn(page, gapPx + n * (cellPx + gapPx), top, { widthPx: cellPx, heightPx }));
  });
  return { widthPx, heightPx: topPx, pages: placed };
}

function placedIn(page: Page, x: number, y: number, cell: { widthPx: number; heightPx: number }) {
  const { leftPx, topPx, pxPerPt } = fitPage(page, cell);
  const placement = { leftPx: x + leftPx, topPx: y + topPx, pxPerPt };
  const box = {
    x: placement.leftPx + page.leftPt * pxPerPt,
    y: placement.topPx + page.topPt * pxPerPt,
    width: page.widthPt * pxPerPt,
    height: page.heightPt * pxPerPt,
  };
  return { placement, box };
}
