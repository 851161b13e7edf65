import { getStroke } from 'perfect-freehand';
import type { Stroke } from '../lesson/piece';
import type { InkPoints } from './points';
import { inkStyle } from './style';

/** A closed outline as x, y pairs in points. */
export type Outline = Float32Array;

/** By the places a pen passed, and its tip: strokes that differ in colour or in their times have the same outline. */
const whole = new WeakMap<InkPoints['xPt'], Map<string, Outline>>();

/**
 * The outline of the ink a stroke shows once `count` of its points are written; widths follow pressure.
 * Outlines of whole strokes are kept as long as their points are.
 */
export function strokeOutline(stroke: Stroke, count: number = stroke.points.count): Outline {
  const { pen, points } = stroke;
  if (count < points.count) return outlineOf(stroke, count);
  const tip = `${pen.kind} ${pen.widthPt}`;
  const known = whole.get(points.xPt) ?? new Map<string, Outline>();
  let outline = known.get(tip);
  if (!outline) {
    outline = outlineOf(stroke, count);
    whole.set(points.xPt, known.set(tip, outline));
  }
  return outline;
}

/** How far a stroke's ink reaches to either side of each of its points, in points, before it is moved. */
export function halfWidthsPt(stroke: Stroke): Float32Array {
  const { widthShare, thinning } = inkStyle(stroke.pen);
  const size = stroke.pen.widthPt * widthShare;
  // As perfect-freehand has it: the radius at a pressure.
  return Float32Array.from(
    { length: stroke.points.count },
    (_, i) => size * (0.5 - thinning * (0.5 - firmnessAt(stroke, i))),
  );
}

/** The pressure at a point, and what a broad nib makes of it. */
function firmnessAt({ pen, points }: Stroke, i: number): number {
  const { nibRad } = inkStyle(pen);
  return Math.min(1, points.pressure[i] * (nibRad === null ? 1 : nibShare(points, i, nibRad)));
}

function outlineOf(stroke: Stroke, count: number): Outline {
  const { xPt, yPt } = stroke.points;
  const { widthShare, thinning } = inkStyle(stroke.pen);
  const input: [number, number, number][] = [];
  for (let i = 0; i < count; i++) input.push([xPt[i], yPt[i], firmnessAt(stroke, i)]);
  const corners = getStroke(input, {
    size: stroke.pen.widthPt * widthShare,
    thinning,
    smoothing: 0.5,
    streamline: 0.35,
    simulatePressure: false,
    last: true,
  });
  const outline = new Float32Array(corners.length * 2);
  corners.forEach(([x, y], i) => outline.set([x, y], i * 2));
  return outline;
}

/** The direction of writing is told from this many points back, so that it does not tremble. */
const DIRECTION_POINTS = 4;
const ALONG_NIB = 0.35;

/** How broad a nib writes in the direction it is moved: a share from 0.35 along it to 1.35 across it. */
function nibShare({ xPt, yPt }: InkPoints, i: number, nibRad: number): number {
  const from = Math.max(0, i - DIRECTION_POINTS);
  const [dx, dy] = [xPt[i] - xPt[from], yPt[i] - yPt[from]];
  if (dx === 0 && dy === 0) return 1;
  return ALONG_NIB + Math.abs(Math.sin(Math.atan2(dy, dx) - nibRad));
}
