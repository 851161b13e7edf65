import { strokeBounds } from '../ink/bounds';
import { strokeOutline } from '../ink/outline';
import type { PieceId } from '../lesson/ids';
import type { Page } from '../lesson/page';
import type { Stroke } from '../lesson/piece';
import { rectsMeet, type RectPt } from '../lesson/rect';
import type { PageState } from '../lesson/scene';
import { paintPaper } from './paper';
import type { Placement, Surface } from './surface';

const HIGHLIGHTER_ALPHA = 0.42;
const NONE: ReadonlyMap<PieceId, number> = new Map();

/** A rectangle of whole pixels. */
export interface PixelRect {
  x: number;
  y: number;
  width: number;
  height: number;
}

/**
 * Paints a page: its paper, then its pieces from the lowest to the topmost.
 * @param growing how many points are written of strokes that are not whole yet
 * @param region paints only this part of the page, as whole pixels; what is there already is painted over
 */
export function paintPage(
  surface: Surface,
  state: PageState,
  placement: Placement,
  growing: ReadonlyMap<PieceId, number> = NONE,
  region?: RectPt,
): void {
  surface.save();
  clipTo(surface, pagePixels(state.page, placement, region));
  placeOn(surface, placement);
  paintPaper(surface, state.page, region);
  for (const piece of state.pieces) {
    if (!region || rectsMeet(strokeBounds(piece), region)) paintStroke(surface, piece, growing.get(piece.id));
  }
  surface.restore();
}

/** Paints strokes over what is there, as new ink on top or as wet ink on a layer of its own. */
export function paintStrokes(surface: Surface, strokes: Iterable<Stroke>, placement: Placement): void {
  surface.save();
  placeOn(surface, placement);
  for (const stroke of strokes) paintStroke(surface, stroke);
  surface.restore();
}

/** The whole pixels that a region of a page touches. */
export function pagePixels(page: Page, placement: Placement, region?: RectPt): PixelRect {
  const { leftPx, topPx, pxPerPt } = placement;
  const left = Math.max(0, region?.left ?? 0);
  const top = Math.max(0, region?.top ?? 0);
  const right = Math.min(page.widthPt, region?.right ?? page.widthPt);
  const bottom = Math.min(page.heightPt, region?.bottom ?? page.heightPt);
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

function paintStroke(surface: Surface, stroke: Stroke, count = stroke.points.count): void {
  switch (stroke.pen.kind) {
    case 'pen':
      return paintInk(surface, stroke, count);
    case 'highlighter':
      return paintHighlight(surface, stroke, count);
  }
}

function paintInk(surface: Surface, stroke: Stroke, count: number): void {
  const outline = strokeOutline(stroke, count);
  if (outline.length < 6) return;
  surface.fillStyle = stroke.pen.color;
  surface.beginPath();
  // Curves run through the middles of the outline's sides, with its corners as control points.
  const last = outline.length - 2;
  surface.moveTo((outline[last] + outline[0]) / 2, (outline[last + 1] + outline[1]) / 2);
  for (let i = 0; i <= last; i += 2) {
    const next = i === last ? 0 : i + 2;
    surface.quadraticCurveTo(
      outline[i],
      outline[i + 1],
      (outline[i] + outline[next]) / 2,
      (outline[i + 1] + outline[next + 1]) / 2,
    );
  }
  surface.closePath();
  surface.fill();
}

/** A highlighter keeps its width and darkens nothing twice; text under it stays legible. */
function paintHighlight(surface: Surface, stroke: Stroke, count: number): void {
  const { xPt, yPt } = stroke.points;
  if (count === 0) return;
  surface.globalAlpha = HIGHLIGHTER_ALPHA;
  surface.globalCompositeOperation = 'multiply';
  surface.strokeStyle = stroke.pen.color;
  surface.lineWidth = stroke.pen.widthPt;
  surface.lineCap = 'round';
  surface.lineJoin = 'round';
  surface.beginPath();
  surface.moveTo(xPt[0], yPt[0]);
  for (let i = 1; i < count; i++) {
    surface.quadraticCurveTo(xPt[i - 1], yPt[i - 1], (xPt[i - 1] + xPt[i]) / 2, (yPt[i - 1] + yPt[i]) / 2);
  }
  surface.lineTo(xPt[count - 1] + 0.01, yPt[count - 1]);
  surface.stroke();
  surface.globalAlpha = 1;
  surface.globalCompositeOperation = 'source-over';
}
