import { getStroke } from 'perfect-freehand';
import type { Stroke } from '../lesson/piece';

/** A closed outline as x, y pairs in points. */
export type Outline = Float32Array;

const whole = new WeakMap<Stroke, Outline>();

/**
 * The outline of the ink a stroke shows once `count` of its points are written; widths follow pressure.
 * Outlines of whole strokes are kept with the stroke.
 */
export function strokeOutline(stroke: Stroke, count: number = stroke.points.count): Outline {
  if (count < stroke.points.count) return outlineOf(stroke, count);
  let outline = whole.get(stroke);
  if (!outline) {
    outline = outlineOf(stroke, count);
    whole.set(stroke, outline);
  }
  return outline;
}

function outlineOf(stroke: Stroke, count: number): Outline {
  const { xPt, yPt, pressure } = stroke.points;
  const input: [number, number, number][] = [];
  for (let i = 0; i < count; i++) input.push([xPt[i], yPt[i], pressure[i]]);
  const corners = getStroke(input, {
    size: stroke.pen.widthPt * 1.25,
    thinning: 0.55,
    smoothing: 0.5,
    streamline: 0.35,
    simulatePressure: false,
    last: true,
  });
  const outline = new Float32Array(corners.length * 2);
  corners.forEach(([x, y], i) => outline.set([x, y], i * 2));
  return outline;
}
