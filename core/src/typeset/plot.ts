import { storableDrawing, UNITS_PER_EM, type Drawing, type DrawnLine, type Letter } from '../drawing/drawing';
import { LINE, MOVE, type Path } from '../drawing/path';
import type { Contents } from '../lesson/content';
import { curveOf } from './equation';
import { setLine } from './line';
import type { Range } from './sampling';
import type { Typeface } from './typeface';

export const PLOT_SIZE = { widthPt: 360, heightPt: 270 };
const MARGIN_PT = 14;
const LABEL_PT = 10;
const GRID_COLOR = '#c9c3b4';
const AXIS_PT = 1.2;
const GRID_PT = 0.6;
const CURVE_PT = 2.2;
const TICK_PT = 4;

/**
 * Draws curves on labelled axes: y = f(x), x = f(y), and equations of both.
 * @param face sets the numbers
 * @throws PlotProblem when an expression is not understood
 */
export function drawPlot({ x, y, grid, curves }: Contents['plot'], face: Typeface): Drawing {
  const { widthPt, heightPt } = PLOT_SIZE;
  const toX = (value: number) => MARGIN_PT + ((value - x.from) / (x.to - x.from)) * (widthPt - 2 * MARGIN_PT);
  const toY = (value: number) =>
    heightPt - MARGIN_PT - ((value - y.from) / (y.to - y.from)) * (heightPt - 2 * MARGIN_PT);
  const lines: DrawnLine[] = [];
  const letters: Letter[] = [];
  const line = (path: Path, lineWidthPt: number, color: string | null = null) =>
    lines.push({ path, color, widthPt: lineWidthPt });
  const [axisX, axisY] = [toX(nearestTo(0, x)), toY(nearestTo(0, y))];
  for (const value of ticksOf(x)) {
    if (grid) line([MOVE, toX(value), toY(y.from), LINE, toX(value), toY(y.to)], GRID_PT, GRID_COLOR);
    line([MOVE, toX(value), axisY - TICK_PT, LINE, toX(value), axisY + TICK_PT], GRID_PT);
    if (value === 0) continue;
    const below = axisY + LABEL_PT + TICK_PT < heightPt;
    letters.push(...label(value, face, toX(value), below ? axisY + TICK_PT + LABEL_PT : axisY - TICK_PT - 2, 'center'));
  }
  for (const value of ticksOf(y)) {
    if (grid) line([MOVE, toX(x.from), toY(value), LINE, toX(x.to), toY(value)], GRID_PT, GRID_COLOR);
    line([MOVE, axisX - TICK_PT, toY(value), LINE, axisX + TICK_PT, toY(value)], GRID_PT);
    if (value === 0) continue;
    const before = axisX > 34;
    const place = before ? axisX - TICK_PT - 2 : axisX + TICK_PT + 2;
    letters.push(...label(value, face, place, toY(value) + LABEL_PT * 0.35, before ? 'right' : 'left'));
  }
  line([MOVE, toX(x.from), axisY, LINE, toX(x.to) + 8, axisY], AXIS_PT);
  line([MOVE, axisX, toY(y.from), LINE, axisX, toY(y.to) - 8], AXIS_PT);
  line([MOVE, toX(x.to) + 3, axisY - 3.5, LINE, toX(x.to) + 9, axisY, LINE, toX(x.to) + 3, axisY + 3.5], AXIS_PT);
  line([MOVE, axisX - 3.5, toY(y.to) - 3, LINE, axisX, toY(y.to) - 9, LINE, axisX + 3.5, toY(y.to) - 3], AXIS_PT);
  for (const { expression, color } of curves) {
    const path = curveOf(expression)(x, y).flatMap((run) =>
      run.flatMap(([px, py], i) => [i === 0 ? MOVE : LINE, toX(px), toY(py)]),
    );
    if (path.length > 0) line(path, CURVE_PT, color);
  }
  return storableDrawing({ widthPt, heightPt, letters, lines });
}

const nearestTo = (value: number, { from, to }: Range) => Math.min(to, Math.max(from, value));

/** Five to ten round values of a range, a step of 1, 2 or 5 times a power of ten apart. */
export function ticksOf({ from, to }: Range): number[] {
  const rough = (to - from) / 8;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = [1, 2, 5, 10].map((share) => share * power).find((one) => one >= rough)!;
  const first = Math.ceil(from / step - 1e-9);
  const last = Math.floor(to / step + 1e-9);
  return Array.from({ length: last - first + 1 }, (_, n) => Number(((first + n) * step).toPrecision(12)) + 0);
}

function label(value: number, face: Typeface, xPt: number, yPt: number, align: 'left' | 'center' | 'right'): Letter[] {
  const unit = LABEL_PT / UNITS_PER_EM;
  const { glyphs, advance } = setLine(String(value).replace('-', '−'), face);
  const width = advance * unit;
  const from = align === 'left' ? xPt : align === 'right' ? xPt - width : xPt - width / 2;
  return glyphs.map(({ outline, x, y }) => ({ outline, xPt: from + x * unit, yPt: yPt - y * unit, sizePt: LABEL_PT }));
}
