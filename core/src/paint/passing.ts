import type { InkPoints } from '../ink/points';
import { strokeBounds } from '../ink/bounds';
import { pageRect, type Page } from '../lesson/page';
import { EMPTY_RECT, growRect, unionRect, type RectPt } from '../lesson/rect';
import { remainingShare, type Passing } from '../trail/passing';
import type { Surface } from './surface';

/** Sizes as shares of the page's shorter side. */
const DOT_SHARE = 1 / 70;
const SPOT_SHARE = 1 / 5;
const LENS_SHARE = 1 / 6;
const ARROW_SHARE = 1 / 9;
const TAIL_MS = 320;
const DIM = 'rgba(22, 28, 46, 0.62)';
export const LENS_ZOOM = 2;

const shortSide = ({ widthPt, heightPt }: Page): number => Math.min(widthPt, heightPt);

/** The rectangle of the page in which something that passes may be seen at its moment. */
export function passingBounds({ change, sinceMs }: Passing, page: Page): RectPt {
  if (change.kind === 'ink') return strokeBounds(change.stroke);
  const { pointer, points } = change.pointing;
  const short = shortSide(page);
  switch (pointer) {
    case 'spotlight':
      return pageRect(page);
    case 'dot':
      return growRect(reached(points, sinceMs - TAIL_MS, sinceMs), short * DOT_SHARE * 2.4 + 2);
    case 'arrow':
      return growRect(reached(points, sinceMs, sinceMs), short * ARROW_SHARE * 1.5);
    case 'magnifier':
      return growRect(reached(points, sinceMs, sinceMs), short * LENS_SHARE + 6);
  }
}

/** The rectangle around the places between two times. */
function reached(points: InkPoints, fromMs: number, toMs: number): RectPt {
  let rect = EMPTY_RECT;
  for (let i = points.countBy(Math.max(0, fromMs)) - 1; i < points.countBy(toMs); i++) {
    const [x, y] = [points.xPt[i], points.yPt[i]];
    rect = unionRect(rect, { left: x, top: y, right: x, bottom: y });
  }
  return rect;
}

/** What paints the page itself into a magnifier's lens: larger, about a place. */
export type PaintLarger = (about: { xPt: number; yPt: number }, zoom: number) => void;

/** Paints something pointed at, on a surface placed in points. */
export function paintPointing(surface: Surface, passing: Passing, page: Page, paintLarger: PaintLarger): void {
  const { change, sinceMs } = passing;
  if (change.kind !== 'point') return;
  const { pointer, points, color } = change.pointing;
  const at = points.countBy(sinceMs) - 1;
  const [x, y] = [points.xPt[at], points.yPt[at]];
  const short = shortSide(page);
  surface.globalAlpha = remainingShare(passing);
  switch (pointer) {
    case 'dot':
      paintDot(surface, points, sinceMs, color, short * DOT_SHARE);
      break;
    case 'spotlight':
      paintSpotlight(surface, pageRect(page), x, y, short * SPOT_SHARE);
      break;
    case 'arrow':
      paintArrow(surface, x, y, color, short * ARROW_SHARE);
      break;
    case 'magnifier':
      paintLens(surface, x, y, short * LENS_SHARE, paintLarger);
  }
  surface.globalAlpha = 1;
}

/** A bright dot, and where it was in the last third of a second, ever thinner. */
function paintDot(surface: Surface, points: InkPoints, sinceMs: number, color: string, radius: number): void {
  const last = points.countBy(sinceMs) - 1;
  const alpha = surface.globalAlpha;
  surface.strokeStyle = color;
  surface.lineCap = 'round';
  for (let i = last; i > 0 && points.sinceMs[i - 1] > sinceMs - TAIL_MS; i--) {
    const share = 1 - (sinceMs - points.sinceMs[i]) / TAIL_MS;
    surface.globalAlpha = alpha * share * 0.5;
    surface.lineWidth = Math.max(0.5, radius * 1.5 * share);
    surface.beginPath();
    surface.moveTo(points.xPt[i - 1], points.yPt[i - 1]);
    surface.lineTo(points.xPt[i], points.yPt[i]);
    surface.stroke();
  }
  for (const [size, strength] of [
    [2.2, 0.18],
    [1.5, 0.3],
    [1, 1],
  ]) {
    surface.globalAlpha = alpha * strength;
    surface.fillStyle = color;
    disc(surface, points.xPt[last], points.yPt[last], radius * size);
    surface.fill();
  }
  surface.globalAlpha = alpha;
  surface.fillStyle = '#ffffff';
  disc(surface, points.xPt[last], points.yPt[last], radius * 0.4);
  surface.fill();
}

function disc(surface: Surface, x: number, y: number, radius: number): void {
  surface.beginPath();
  surface.arc(x, y, radius, 0, 2 * Math.PI);
}

function paintSpotlight(surface: Surface, page: RectPt, x: number, y: number, radius: number): void {
  surface.fillStyle = DIM;
  surface.beginPath();
  surface.rect(page.left, page.top, page.right - page.left, page.bottom - page.top);
  // Drawn the other way round, the circle is a hole.
  surface.moveTo(x + radius, y);
  surface.arc(x, y, radius, 0, 2 * Math.PI, true);
  surface.fill();
}

/** Its tip is at the place; it comes from below on the right, where a hand would. */
function paintArrow(surface: Surface, x: number, y: number, color: string, length: number): void {
  surface.save();
  surface.transform(length, 0, 0, length, x, y);
  surface.transform(Math.SQRT1_2, Math.SQRT1_2, -Math.SQRT1_2, Math.SQRT1_2, 0, 0);
  surface.beginPath();
  const corners = [
    [0, 0],
    [0.5, -0.3],
    [0.5, -0.12],
    [1.25, -0.12],
    [1.25, 0.12],
    [0.5, 0.12],
    [0.5, 0.3],
  ];
  corners.forEach(([px, py], i) => (i === 0 ? surface.moveTo(px, py) : surface.lineTo(px, py)));
  surface.closePath();
  surface.fillStyle = color;
  surface.strokeStyle = '#ffffff';
  surface.lineWidth = 0.06;
  surface.lineJoin = 'round';
  surface.stroke();
  surface.fill();
  surface.restore();
}

function paintLens(surface: Surface, x: number, y: number, radius: number, paintLarger: PaintLarger): void {
  surface.save();
  disc(surface, x, y, radius);
  surface.clip();
  paintLarger({ xPt: x, yPt: y }, LENS_ZOOM);
  surface.restore();
  surface.strokeStyle = '#1f2a44';
  surface.lineWidth = 3;
  disc(surface, x, y, radius);
  surface.stroke();
}
