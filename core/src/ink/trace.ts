import type { PathSink } from '../drawing/path';
import type { Stroke } from '../lesson/piece';
import { strokeOutline } from './outline';
import { inkStyle } from './style';

type Tracer = Pick<PathSink, 'moveTo' | 'lineTo' | 'quadraticCurveTo' | 'closePath'>;

/**
 * Traces what a stroke's ink looks like once `count` of its points are written, before it is moved: the outline that is to be
 * filled, or, for pens that draw a line of one width, the line that is to be drawn as broad as the pen. Whoever paints ink
 * and whoever touches it asks this, so that the shape touched is the shape painted.
 */
export function traceInk(stroke: Stroke, count: number, into: Tracer): void {
  if (inkStyle(stroke.pen).isLine) traceLine(stroke, count, into);
  else traceOutline(stroke, count, into);
}

/** Curves run through the middles of the outline's sides, with its corners as control points. */
function traceOutline(stroke: Stroke, count: number, into: Tracer): void {
  const outline = strokeOutline(stroke, count);
  if (outline.length < 6) return;
  const last = outline.length - 2;
  into.moveTo((outline[last] + outline[0]) / 2, (outline[last + 1] + outline[1]) / 2);
  for (let i = 0; i <= last; i += 2) {
    const next = i === last ? 0 : i + 2;
    into.quadraticCurveTo(
      outline[i],
      outline[i + 1],
      (outline[i] + outline[next]) / 2,
      (outline[i + 1] + outline[next + 1]) / 2,
    );
  }
  into.closePath();
}

/** A line has to go on a little to be seen: so does a dot. */
const DOT_PT = 0.01;

/** A smooth line along the points. */
function traceLine({ points: { xPt, yPt } }: Stroke, count: number, into: Tracer): void {
  if (count === 0) return;
  into.moveTo(xPt[0], yPt[0]);
  for (let i = 1; i < count; i++) {
    into.quadraticCurveTo(xPt[i - 1], yPt[i - 1], (xPt[i - 1] + xPt[i]) / 2, (yPt[i - 1] + yPt[i]) / 2);
  }
  into.lineTo(xPt[count - 1] + DOT_PT, yPt[count - 1]);
}

/** How far straight pieces may lie off the curve they stand for. */
const OFF_PT = 0.05;

const edges = new WeakMap<Stroke, Float32Array>();

/** What {@link traceInk} traces of a whole stroke, its curves cut into straight pieces, as x, y pairs. */
export function inkEdge(stroke: Stroke): Float32Array {
  let edge = edges.get(stroke);
  if (!edge) {
    edge = flattenedInk(stroke);
    edges.set(stroke, edge);
  }
  return edge;
}

function flattenedInk(stroke: Stroke): Float32Array {
  const line: number[] = [];
  traceInk(stroke, stroke.points.count, {
    moveTo: (x, y) => void line.push(x, y),
    lineTo: (x, y) => void line.push(x, y),
    quadraticCurveTo: (controlX, controlY, x, y) => {
      const [fromX, fromY] = line.slice(-2);
      // A curve of second degree, cut into n pieces, lies off them by at most this bend by 4 n².
      const bend = Math.hypot(fromX - 2 * controlX + x, fromY - 2 * controlY + y);
      const pieces = Math.max(1, Math.ceil(Math.sqrt(bend / (4 * OFF_PT))));
      for (let piece = 1; piece <= pieces; piece++) {
        const t = piece / pieces;
        const [a, b, c] = [(1 - t) ** 2, 2 * t * (1 - t), t ** 2];
        line.push(a * fromX + b * controlX + c * x, a * fromY + b * controlY + c * y);
      }
    },
    closePath: () => void line.push(line[0], line[1]),
  });
  return Float32Array.from(line);
}
