import { growRect } from '../lesson/rect';
import type { Piece, Stroke } from '../lesson/piece';
import { strokeBounds } from './bounds';
import { localPath } from './local';

/**
 * The strokes that a round eraser touches while it moves along a line.
 * @param radiusPt the eraser's radius; the ink's own half width is added to it
 */
export function strokesTouched(
  pieces: readonly Piece[],
  from: { xPt: number; yPt: number },
  to: { xPt: number; yPt: number },
  radiusPt: number,
): Stroke[] {
  return pieces.filter((piece): piece is Stroke => piece.kind === 'stroke' && strokeTouched(piece, from, to, radiusPt));
}

/** Whether an eraser's path comes near a stroke at all. */
export function eraserReaches(
  stroke: Stroke,
  from: { xPt: number; yPt: number },
  to: { xPt: number; yPt: number },
  radiusPt: number,
): boolean {
  const bounds = growRect(strokeBounds(stroke), radiusPt);
  return (
    Math.max(from.xPt, to.xPt) >= bounds.left &&
    Math.min(from.xPt, to.xPt) <= bounds.right &&
    Math.max(from.yPt, to.yPt) >= bounds.top &&
    Math.min(from.yPt, to.yPt) <= bounds.bottom
  );
}

/** Whether a round tool touches a stroke's ink while it moves along a line. */
export function strokeTouched(
  stroke: Stroke,
  from: { xPt: number; yPt: number },
  to: { xPt: number; yPt: number },
  radiusPt: number,
): boolean {
  if (!eraserReaches(stroke, from, to, radiusPt)) return false;
  const local = localPath(stroke, from, to, radiusPt);
  const reach = local.radiusPt + stroke.pen.widthPt / 2;
  const { xPt, yPt, count } = stroke.points;
  for (let i = 0; i < count; i++) {
    const previous = Math.max(0, i - 1);
    const gap = segmentDistance(
      xPt[previous],
      yPt[previous],
      xPt[i],
      yPt[i],
      local.from.xPt,
      local.from.yPt,
      local.to.xPt,
      local.to.yPt,
    );
    if (gap <= reach) return true;
  }
  return false;
}

/** The least distance between two line segments, either of which may be a point. */
export function segmentDistance(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  cx: number,
  cy: number,
  dx: number,
  dy: number,
): number {
  if (segmentsCross(ax, ay, bx, by, cx, cy, dx, dy)) return 0;
  return Math.min(
    pointDistance(ax, ay, cx, cy, dx, dy),
    pointDistance(bx, by, cx, cy, dx, dy),
    pointDistance(cx, cy, ax, ay, bx, by),
    pointDistance(dx, dy, ax, ay, bx, by),
  );
}

function segmentsCross(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  cx: number,
  cy: number,
  dx: number,
  dy: number,
): boolean {
  const side = (px: number, py: number, qx: number, qy: number, rx: number, ry: number) =>
    Math.sign((qx - px) * (ry - py) - (qy - py) * (rx - px));
  return (
    side(ax, ay, bx, by, cx, cy) * side(ax, ay, bx, by, dx, dy) < 0 &&
    side(cx, cy, dx, dy, ax, ay) * side(cx, cy, dx, dy, bx, by) < 0
  );
}

/** The distance from a point to a line segment. */
export function pointDistance(px: number, py: number, ax: number, ay: number, bx: number, by: number): number {
  const lengthSquared = (bx - ax) ** 2 + (by - ay) ** 2;
  const along = lengthSquared === 0 ? 0 : ((px - ax) * (bx - ax) + (py - ay) * (by - ay)) / lengthSquared;
  const t = Math.min(1, Math.max(0, along));
  return Math.hypot(px - (ax + t * (bx - ax)), py - (ay + t * (by - ay)));
}
