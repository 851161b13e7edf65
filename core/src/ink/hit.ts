import { movedLine, scaleOfMatrix } from '../lesson/matrix';
import type { Piece, Stroke } from '../lesson/piece';
import { windsAround } from '../lesson/polygon';
import { growRect } from '../lesson/rect';
import { strokeBounds } from './bounds';
import { inkStyle } from './style';
import { inkEdge } from './trace';

/**
 * The strokes that a round eraser touches while it moves along a line: those whose ink, as it is painted, it comes upon.
 * @param radiusPt the eraser's radius
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

/** Whether a round tool touches a stroke's ink, as it is painted on the page, while it moves along a line. */
export function strokeTouched(
  stroke: Stroke,
  from: { xPt: number; yPt: number },
  to: { xPt: number; yPt: number },
  radiusPt: number,
): boolean {
  if (!eraserReaches(stroke, from, to, radiusPt)) return false;
  const { matrix, pen } = stroke;
  const written = inkEdge(stroke);
  const edge = matrix ? movedLine(matrix, written) : written;
  if (!inkStyle(pen).isLine) {
    return comesNear(edge, from, to, radiusPt) || windsAround(edge, from.xPt, from.yPt);
  }
  const halfWidthPt = (pen.widthPt / 2) * (matrix ? scaleOfMatrix(matrix) : 1);
  return comesNear(edge, from, to, radiusPt + halfWidthPt);
}

interface PlacePt {
  xPt: number;
  yPt: number;
}

/** Whether a tool's path comes within a reach of a line of x, y pairs. */
function comesNear(line: ArrayLike<number>, from: PlacePt, to: PlacePt, reachPt: number): boolean {
  for (let i = 2; i < line.length; i += 2) {
    const gap = segmentDistance(line[i - 2], line[i - 1], line[i], line[i + 1], from.xPt, from.yPt, to.xPt, to.yPt);
    if (gap <= reachPt) return true;
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
