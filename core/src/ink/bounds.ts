import type { Stroke } from '../lesson/piece';
import { EMPTY_RECT, growRect, movedRect, type RectPt } from '../lesson/rect';
import { inkReachPt } from './style';

/** Smoothing lets outlines swing out a little, and edges are soft. */
const MARGIN_PT = 3;

const whole = new WeakMap<Stroke, RectPt>();

/** The rectangle all of a stroke's ink lies in, its width included. */
export function strokeBounds(stroke: Stroke): RectPt {
  let bounds = whole.get(stroke);
  if (!bounds) {
    bounds = inkBounds(stroke, 0, stroke.points.count);
    whole.set(stroke, bounds);
  }
  return bounds;
}

/** The rectangle the ink of the points `[from, to)` lies in. */
export function inkBounds(stroke: Stroke, from: number, to: number): RectPt {
  const { xPt, yPt } = stroke.points;
  let { left, top, right, bottom } = EMPTY_RECT;
  for (let i = Math.max(0, from); i < to; i++) {
    left = Math.min(left, xPt[i]);
    right = Math.max(right, xPt[i]);
    top = Math.min(top, yPt[i]);
    bottom = Math.max(bottom, yPt[i]);
  }
  const rect = growRect({ left, top, right, bottom }, inkReachPt(stroke.pen) + MARGIN_PT);
  return stroke.matrix ? movedRect(rect, stroke.matrix) : rect;
}
