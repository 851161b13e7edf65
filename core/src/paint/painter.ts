import { inkStyle } from '../ink/style';
import { traceInk } from '../ink/trace';
import { pieceBounds } from '../lesson/bounds';
import { pageRect, type Page } from '../lesson/page';
import type { Piece, Stroke } from '../lesson/piece';
import { rectsMeet, type RectPt } from '../lesson/rect';
import type { PageState } from '../lesson/scene';
import { remainingShare, type Passing } from '../trail/passing';
import type { Moment } from '../trail/timeline';
import { paintComposed } from './composed';
import { isDark, legibleInk } from './legible';
import { paintPaper } from './paper';
import { paintPointing } from './passing';
import { NO_IMAGES, paintPicture, paintSheet, type Images } from './picture';
import type { Placement, Surface } from './surface';

/** Lengths of a dash and of a gap, in widths of the pen. */
const DASH = [3.2, 2.6];

/** What moves on a page at a moment. */
export type Live = Pick<Moment, 'growing' | 'passing'>;
const NOTHING_LIVE: Live = { growing: new Map(), passing: [] };

/** A rectangle of whole pixels. */
export interface PixelRect {
  x: number;
  y: number;
  width: number;
  height: number;
}

/**
 * Paints a page: its paper, then its pieces from the lowest to the topmost.
 * @param images where pictures and PDF pages come from; what is not there yet is left out
 * @param live strokes that are not whole yet, and what is seen for a while
 * @param region paints only this part of the page, as whole pixels; what is there already is painted over
 */
export function paintPage(
  surface: Surface,
  state: PageState,
  placement: Placement,
  images: Images = NO_IMAGES,
  live: Live = NOTHING_LIVE,
  region?: RectPt,
): void {
  surface.save();
  clipTo(surface, pagePixels(state.page, placement, region));
  placeOn(surface, placement);
  // Pictures are mostly shown smaller than they are: thin lines must not break up.
  surface.imageSmoothingQuality = 'medium';
  paintPaper(surface, state.page, images, placement.pxPerPt, region);
  if (state.page.sheet) paintSheet(surface, state.page.sheet, images, placement.pxPerPt);
  for (const piece of state.pieces) {
    if (region && !rectsMeet(pieceBounds(piece), region)) continue;
    paintPiece(surface, piece, state.page.paper.color, images, placement.pxPerPt, live.growing.get(piece.id));
  }
  paintPassing(surface, state, live.passing, placement, images);
  surface.restore();
}

/** Paints what is seen for a while, above all that lies on the page, on a surface placed in points. */
function paintPassing(
  surface: Surface,
  state: PageState,
  passing: readonly Passing[],
  placement: Placement,
  images: Images,
): void {
  for (const one of passing) {
    if (one.change.kind === 'ink') {
      const { stroke } = one.change;
      const opacity = stroke.opacity * remainingShare(one);
      paintStroke(surface, { ...stroke, opacity }, state.page.paper.color, stroke.points.countBy(one.sinceMs));
      continue;
    }
    paintPointing(surface, one, state.page, ({ xPt, yPt }, zoom) => {
      surface.save();
      const pxPerPt = placement.pxPerPt * zoom;
      const larger = {
        pxPerPt,
        leftPx: placement.leftPx + xPt * (placement.pxPerPt - pxPerPt),
        topPx: placement.topPx + yPt * (placement.pxPerPt - pxPerPt),
      };
      paintPage(surface, state, larger, images);
      surface.restore();
    });
  }
}

/** Paints pieces, such as wet ink, on a layer of its own, above a page of a paper of this colour. */
export function paintPieces(
  surface: Surface,
  pieces: Iterable<Piece>,
  paperColor: string,
  placement: Placement,
  images: Images = NO_IMAGES,
  growing: Live['growing'] = NOTHING_LIVE.growing,
): void {
  surface.save();
  placeOn(surface, placement);
  for (const piece of pieces) paintPiece(surface, piece, paperColor, images, placement.pxPerPt, growing.get(piece.id));
  surface.restore();
}

/** Paints what is seen for a while on a layer of its own, above a page. */
export function paintPassingLayer(
  surface: Surface,
  state: PageState,
  passing: readonly Passing[],
  placement: Placement,
  images: Images,
): void {
  surface.save();
  placeOn(surface, placement);
  paintPassing(surface, state, passing, placement, images);
  surface.restore();
}

/** The whole pixels that a region of a page touches. */
export function pagePixels(page: Page, placement: Placement, region?: RectPt): PixelRect {
  const { leftPx, topPx, pxPerPt } = placement;
  const whole = pageRect(page);
  const left = Math.max(whole.left, region?.left ?? -Infinity);
  const top = Math.max(whole.top, region?.top ?? -Infinity);
  const right = Math.min(whole.right, region?.right ?? Infinity);
  const bottom = Math.min(whole.bottom, region?.bottom ?? Infinity);
  const x = Math.floor(leftPx + left * pxPerPt);
  const y = Math.floor(topPx + top * pxPerPt);
  return {
    x,
    y,
    width: Math.max(0, Math.ceil(leftPx + right * pxPerPt) - x),
    height: Math.max(0, Math.ceil(topPx + bottom * pxPerPt) - y),
  };
}

function clipTo(surface: Surface, pixels: PixelRect): void {
  surface.setTransform(1, 0, 0, 1, 0, 0);
  surface.beginPath();
  surface.rect(pixels.x, pixels.y, pixels.width, pixels.height);
  surface.clip();
}

function placeOn(surface: Surface, { leftPx, topPx, pxPerPt }: Placement): void {
  surface.setTransform(pxPerPt, 0, 0, pxPerPt, leftPx, topPx);
}

function paintPiece(
  surface: Surface,
  piece: Piece,
  paperColor: string,
  images: Images,
  pxPerPt: number,
  count?: number,
): void {
  if (piece.kind === 'stroke') paintStroke(surface, piece, paperColor, count);
  else if (piece.kind === 'picture') paintPicture(surface, piece, images, pxPerPt);
  else paintComposed(surface, piece, paperColor);
}

function paintStroke(surface: Surface, stroke: Stroke, paperColor: string, count = stroke.points.count): void {
  if (stroke.matrix) {
    surface.save();
    surface.transform(...stroke.matrix);
  }
  paintWritten(surface, stroke, paperColor, count);
  if (stroke.matrix) surface.restore();
}

/** Paints ink where it was written. */
function paintWritten(surface: Surface, stroke: Stroke, paperColor: string, count: number): void {
  switch (stroke.pen.kind) {
    case 'highlighter':
      return paintHighlight(surface, stroke, paperColor, count);
    case 'dashed':
      return paintDashes(surface, stroke, paperColor, count);
    default:
      return paintInk(surface, stroke, paperColor, count);
  }
}

function paintInk(surface: Surface, stroke: Stroke, paperColor: string, count: number): void {
  surface.fillStyle = legibleInk(stroke.pen.color, paperColor);
  surface.beginPath();
  traceInk(stroke, count, surface);
  surface.globalAlpha = inkStyle(stroke.pen).opacity * stroke.opacity;
  surface.fill();
  surface.globalAlpha = 1;
}

function paintDashes(surface: Surface, stroke: Stroke, paperColor: string, count: number): void {
  if (count === 0) return;
  surface.setLineDash(DASH.map((share) => share * stroke.pen.widthPt));
  surface.strokeStyle = legibleInk(stroke.pen.color, paperColor);
  surface.globalAlpha = stroke.opacity;
  drawLine(surface, stroke, count);
  surface.globalAlpha = 1;
  surface.setLineDash([]);
}

/** A highlighter keeps its width and darkens nothing twice; text under it stays legible. */
function paintHighlight(surface: Surface, stroke: Stroke, paperColor: string, count: number): void {
  if (count === 0) return;
  surface.globalAlpha = inkStyle(stroke.pen).opacity * stroke.opacity;
  surface.globalCompositeOperation = isDark(paperColor) ? 'screen' : 'multiply';
  surface.strokeStyle = stroke.pen.color;
  drawLine(surface, stroke, count);
  surface.globalAlpha = 1;
  surface.globalCompositeOperation = 'source-over';
}

/** Strokes the line of a pen that is as broad everywhere. */
function drawLine(surface: Surface, stroke: Stroke, count: number): void {
  surface.lineWidth = stroke.pen.widthPt;
  surface.lineCap = 'round';
  surface.lineJoin = 'round';
  surface.beginPath();
  traceInk(stroke, count, surface);
  surface.stroke();
}
