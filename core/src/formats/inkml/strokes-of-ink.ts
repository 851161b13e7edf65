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

/** The traces of each canvas of a file, in the order in which canvases are first written on. */
export function byCanvas(traces: readonly InkTrace[]): InkTrace[][] {
  const canvases = new Map<string | null, InkTrace[]>();
  for (const trace of traces) {
    const own = canvases.get(trace.canvas);
    if (own) own.push(trace);
    else canvases.set(trace.canvas, [trace]);
  }
  return [...canvases.values()];
}

/** The strokes of a canvas, and when each began, on the file's own clock; `null` where that is not told. */
export interface BroughtInk {
  strokes: Stroke[];
  atMs: (number | null)[];
}

/**
 * The strokes of one canvas of an InkML file: where they were written, if that lies on the page; else as large as they fit, in its middle.
 * Traces without a point that says where it is are left out. They lie upon one another in their order, from 1 on.
 */
export function strokesOfInk(traces: readonly InkTrace[], { page, pen, newId }: Bringing): BroughtInk {
  const samples = traces.map(samplesOf);
  const { scale, onPage } = fitting(samples, page);
  const brought: BroughtInk = { strokes: [], atMs: [] };
  for (const [i, { brush, atMs }] of traces.entries()) {
    if (samples[i].length === 0) continue;
    const points = InkPoints.from(samples[i].map(onPage));
    const stroke = newStroke({ id: newId(), z: i + 1, pen: penOf(brush, pen, scale), points });
    brought.strokes.push({ ...stroke, opacity: storableOpacity(brush.opacity ?? 1) });
    brought.atMs.push(atMs);
  }
  return brought;
}

const samplesOf = ({ xPt, yPt, pressure, sinceMs, tilt }: InkTrace): InkSample[] =>
  xPt.flatMap((x, i) =>
    Number.isFinite(x) && Number.isFinite(yPt[i])
      ? [
          {
            xPt: x,
            yPt: yPt[i],
            pressure: Number.isFinite(pressure[i]) ? pressure[i] : USUAL_PRESSURE,
            sinceMs: Number.isFinite(sinceMs[i]) ? sinceMs[i] : i * POINT_MS,
            tiltXDeg: tilt?.xDeg[i],
            tiltYDeg: tilt?.yDeg[i],
          },
        ]
      : [],
  );

interface Fitting {
  scale: number;
  onPage: (sample: InkSample) => InkSample;
}

/** Halves are measured: the whole of what a file may say has no number. */
function fitting(strokes: readonly InkSample[][], page: RectPt): Fitting {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const samples of strokes) {
    for (const { xPt, yPt } of samples) {
      [left, right] = [Math.min(left, xPt), Math.max(right, xPt)];
      [top, bottom] = [Math.min(top, yPt), Math.max(bottom, yPt)];
    }
  }
  const liesOnIt = left >= page.left && right <= page.right && top >= page.top && bottom <= page.bottom;
  if (liesOnIt || left > right) return { scale: 1, onPage: (sample) => sample };
  const [x, y] = [line(left, right), line(top, bottom)];
  const [pageX, pageY] = [line(page.left, page.right), line(page.top, page.bottom)];
  const scale = Math.min(1, (FILLED * pageX.half) / x.half, (FILLED * pageY.half) / y.half);
  return {
    scale,
    onPage: (sample) => ({
      ...sample,
      xPt: (sample.xPt - x.middle) * scale + pageX.middle,
      yPt: (sample.yPt - y.middle) * scale + pageY.middle,
    }),
  };
}

const line = (from: number, to: number) => ({ middle: from / 2 + to / 2, half: to / 2 - from / 2 });

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
