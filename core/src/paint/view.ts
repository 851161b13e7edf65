import type { Page } from '../lesson/page';
import type { RectPt } from '../lesson/rect';
import type { Placement } from './surface';

/** What part of a page is looked at: how much larger than when all of it is seen, and the place in the middle. */
export interface View {
  zoom: number;
  xPt: number;
  yPt: number;
}

/** Where a page is looked at, in pixels. */
export interface Box {
  widthPx: number;
  heightPx: number;
}

type Sides = Pick<Page, 'leftPt' | 'topPt' | 'widthPt' | 'heightPt'>;

export const MOST_ZOOM = 8;
const LEAST_PX_PER_PT = 0.05;

/** All of a page. */
export const wholeOf = ({ leftPt, topPt, widthPt, heightPt }: Sides): View => ({
  zoom: 1,
  xPt: leftPt + widthPt / 2,
  yPt: topPt + heightPt / 2,
});

/** How many pixels a point takes in a view. */
export const scaleOf = (page: Sides, box: Box, { zoom }: View): number =>
  Math.max(LEAST_PX_PER_PT, Math.min(box.widthPx / page.widthPt, box.heightPx / page.heightPt)) * zoom;

/** The nearest view that shows nothing beside the page, as long as there is page to be shown. */
export function viewWithin(page: Sides, box: Box, view: View): View {
  const zoom = Math.min(MOST_ZOOM * tallness(page, box), Math.max(1, view.zoom));
  const pxPerPt = scaleOf(page, box, { ...view, zoom });
  return {
    zoom,
    xPt: middleWithin(view.xPt, page.leftPt, page.widthPt, box.widthPx / pxPerPt),
    yPt: middleWithin(view.yPt, page.topPt, page.heightPt, box.heightPx / pxPerPt),
  };
}

/** A page much taller or wider than its box starts small: it may be enlarged as far as one that fills it. */
function tallness(page: Sides, box: Box): number {
  const [across, down] = [box.widthPx / page.widthPt, box.heightPx / page.heightPt];
  return Math.max(across, down) / Math.min(across, down);
}

function middleWithin(middlePt: number, startPt: number, lengthPt: number, visiblePt: number): number {
  if (visiblePt >= lengthPt) return startPt + lengthPt / 2;
  return Math.min(startPt + lengthPt - visiblePt / 2, Math.max(startPt + visiblePt / 2, middlePt));
}

/** A view enlarged by a factor about a place of the box, and moved so that what was there is at another then. */
export function moved(
  page: Sides,
  box: Box,
  view: View,
  { factor, from, to }: { factor: number; from: PlacePx; to: PlacePx },
): View {
  const before = scaleOf(page, box, view);
  const { zoom } = viewWithin(page, box, { ...view, zoom: view.zoom * factor });
  const after = scaleOf(page, box, { ...view, zoom });
  const along = (middlePt: number, lengthPx: number, fromPx: number, toPx: number) =>
    middlePt + (fromPx - lengthPx / 2) / before - (toPx - lengthPx / 2) / after;
  return viewWithin(page, box, {
    zoom,
    xPt: along(view.xPt, box.widthPx, from.xPx, to.xPx),
    yPt: along(view.yPt, box.heightPx, from.yPx, to.yPx),
  });
}

/** From a box's top left corner. */
export interface PlacePx {
  xPx: number;
  yPx: number;
}

/** The part of the box that the page covers in a view, which is in its middle, and where the page lies on that part. */
export function viewport(page: Sides, box: Box, view: View): Box & { placement: Placement } {
  const pxPerPt = scaleOf(page, box, view);
  const widthPx = Math.floor(Math.min(box.widthPx, page.widthPt * pxPerPt));
  const heightPx = Math.floor(Math.min(box.heightPx, page.heightPt * pxPerPt));
  const placement = {
    pxPerPt,
    leftPx: widthPx / 2 - view.xPt * pxPerPt,
    topPx: heightPx / 2 - view.yPt * pxPerPt,
  };
  return { widthPx, heightPx, placement };
}

/** The part of a page that is seen in a view; `null` for all of it. */
export function lookOf(page: Sides, box: Box, view: View): RectPt | null {
  if (view.zoom <= 1) return null;
  const { widthPx, heightPx, placement } = viewport(page, box, view);
  const [width, height] = [widthPx / placement.pxPerPt, heightPx / placement.pxPerPt];
  return {
    left: view.xPt - width / 2,
    top: view.yPt - height / 2,
    right: view.xPt + width / 2,
    bottom: view.yPt + height / 2,
  };
}

/** The view in which all of a look is seen, in a box of any shape. */
export function viewOf(page: Sides, box: Box, look: RectPt | null): View {
  if (!look) return wholeOf(page);
  const pxPerPt = Math.min(box.widthPx / (look.right - look.left), box.heightPx / (look.bottom - look.top));
  return viewWithin(page, box, {
    zoom: pxPerPt / scaleOf(page, box, wholeOf(page)),
    xPt: (look.left + look.right) / 2,
    yPt: (look.top + look.bottom) / 2,
  });
}

/** Where a page lies in a box when a part of it, or all, is looked at; what of the box it does not cover is even around it. */
export function placedFor(page: Sides, box: Box, look: RectPt | null): Placement {
  const { widthPx, heightPx, placement } = viewport(page, box, viewOf(page, box, look));
  return {
    pxPerPt: placement.pxPerPt,
    leftPx: placement.leftPx + Math.round((box.widthPx - widthPx) / 2),
    topPx: placement.topPx + Math.round((box.heightPx - heightPx) / 2),
  };
}
