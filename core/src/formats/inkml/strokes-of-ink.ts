import { InkPoints, type InkSample } from '../../ink/points';
import type { PieceId } from '../../lesson/ids';
import { BROADEST_INK_PT, newStroke, PEN_KINDS, storableOpacity, type Pen, type Stroke } from '../../lesson/piece';
import type { RectPt } from '../../lesson/rect';
import type { InkBrush, InkTrace } from './ink-file';

/** Common practice: pens tell some 125 points a second. */
const POINT_MS = 8;
/** Where no force is told. */
const USUAL_PRESSURE = 0.5;
/** Ink that has to be made smaller leaves so much of the page free. */
const FILLED = 0.9;

/** What a file does not say, and where its ink is to lie. */
export interface Bringing {
  page: RectPt;
  pen: Pen;
  newId: () => PieceId;
}

/**
 * The strokes of one canvas of an InkML file: where they were written, if that lies on the page; else as large as they fit, in its middle.
 * Traces without a point that says where it is are left out. They lie upon one another in their order, from 1 on.
 */
export function strokesOfInk(traces: readonly InkTrace[], { page, pen, newId }: Bringing): Stroke[] {
  const samples = traces.map(samplesOf);
  const { scale, xPt, yPt } = fitting(samples, page);
  return traces.flatMap((trace, i) => {
    if (samples[i].length === 0) return [];
    const points = samples[i].map((one) => ({ ...one, xPt: one.xPt * scale + xPt, yPt: one.yPt * scale + yPt }));
    const stroke = newStroke({
      id: newId(),
      z: i + 1,
      pen: penOf(trace.brush, pen, scale),
      points: InkPoints.from(points),
    });
    return [{ ...stroke, opacity: storableOpacity(trace.brush.opacity ?? 1) }];
  });
}

const samplesOf = ({ xPt, yPt, pressure, sinceMs }: InkTrace): InkSample[] =>
  xPt.flatMap((x, i) =>
    Number.isFinite(x) && Number.isFinite(yPt[i])
      ? [
          {
            xPt: x,
            yPt: yPt[i],
            pressure: Number.isFinite(pressure[i]) ? pressure[i] : USUAL_PRESSURE,
            sinceMs: Number.isFinite(sinceMs[i]) ? sinceMs[i] : i * POINT_MS,
          },
        ]
      : [],
  );

/** How ink is brought onto a page: `x' = scale · x + xPt`, and so for y. */
function fitting(strokes: readonly InkSample[][], page: RectPt): { scale: number; xPt: number; yPt: number } {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const samples of strokes) {
    for (const { xPt, yPt } of samples) {
      [left, right] = [Math.min(left, xPt), Math.max(right, xPt)];
      [top, bottom] = [Math.min(top, yPt), Math.max(bottom, yPt)];
    }
  }
  const liesOnIt = left >= page.left && right <= page.right && top >= page.top && bottom <= page.bottom;
  if (liesOnIt || left > right) return { scale: 1, xPt: 0, yPt: 0 };
  const scale = Math.min(
    1,
    (FILLED * (page.right - page.left)) / (right - left),
    (FILLED * (page.bottom - page.top)) / (bottom - top),
  );
  return {
    scale,
    xPt: (page.left + page.right - scale * (left + right)) / 2,
    yPt: (page.top + page.bottom - scale * (top + bottom)) / 2,
  };
}

function penOf({ color, widthPt, isHighlighter, pen }: InkBrush, usual: Pen, scale: number): Pen {
  // Ink that fades would not stay.
  const ours = PEN_KINDS.find((kind) => kind === pen && kind !== 'fading');
  const width = widthPt === null ? usual.widthPt : widthPt * scale;
  return {
    kind: ours ?? (isHighlighter ? 'highlighter' : 'pen'),
    color: color ?? usual.color,
    widthPt: Math.min(BROADEST_INK_PT, width),
  };
}
