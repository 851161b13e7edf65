import { all, create, type EvalFunction } from 'mathjs';
import { settledDrawing, UNITS_PER_EM, type Drawing, type DrawnLine, type Letter } from '../drawing/drawing';
import { LINE, MOVE, type Path } from '../drawing/path';
import type { Contents } from '../lesson/content';
import type { Typeface } from './typeface';

/** A curve that cannot be plotted. The message says why. */
export class PlotProblem extends Error {
  override readonly name = 'PlotProblem';
}

const math = create(all);
const evaluate = math.compile.bind(math);
// What an expression must not be able to do (mathjs, "Expression parsing: security").
const forbidden = () => {
  throw new PlotProblem('This cannot be plotted.');
};
math.import(
  Object.fromEntries(
    ['import', 'createUnit', 'reviver', 'evaluate', 'parse', 'simplify', 'derivative', 'resolve'].map((name) => [
      name,
      forbidden,
    ]),
  ),
  { override: true },
);

export const PLOT_SIZE = { widthPt: 360, heightPt: 270 };
const MARGIN_PT = 14;
const LABEL_PT = 10;
const GRID_COLOR = '#c9c3b4';
const AXIS_PT = 1.2;
const GRID_PT = 0.6;
const CURVE_PT = 2.2;
const TICK_PT = 4;
const STEPS = 720;

/**
 * Draws curves y = f(x) on labelled axes.
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
    const path = sampled(functionOf(expression), x, y).flatMap((run) =>
      run.flatMap(([px, py], i) => [i === 0 ? MOVE : LINE, toX(px), toY(py)]),
    );
    if (path.length > 0) line(path, CURVE_PT, color);
  }
  return settledDrawing({ widthPt, heightPt, letters, lines });
}

type Range = Contents['plot']['x'];
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
  const set = Array.from(String(value).replace('-', '−'), (letter) => face.letter(letter));
  const width = set.reduce((sum, { advance }) => sum + advance * unit, 0);
  let at = align === 'left' ? xPt : align === 'right' ? xPt - width : xPt - width / 2;
  return set.map(({ outline, advance }) => {
    const letter = { outline, xPt: at, yPt, sizePt: LABEL_PT };
    at += advance * unit;
    return letter;
  });
}

/** @throws PlotProblem */
function functionOf(expression: string): (x: number) => number {
  const own = expression.replace(/^\s*(y|f\s*\(\s*x\s*\))\s*=/, '');
  let compiled: EvalFunction;
  try {
    compiled = evaluate(own) as EvalFunction;
    compiled.evaluate({ x: 0.5 });
  } catch (error) {
    throw new PlotProblem(`“${expression}” is not understood: ${(error as Error).message}`);
  }
  return (x) => {
    const y: unknown = compiled.evaluate({ x });
    // Where a curve has no real value, it is not drawn.
    return typeof y === 'number' ? y : NaN;
  };
}

/** The runs of a curve that lie within the ranges. It is broken at poles, and where it has no value. */
export function sampled(of: (x: number) => number, x: Range, y: Range): [number, number][][] {
  const runs: [number, number][][] = [];
  let run: [number, number][] = [];
  const end = () => {
    if (run.length > 1) runs.push(run);
    run = [];
  };
  const height = y.to - y.from;
  let before: [number, number] | null = null;
  for (let n = 0; n <= STEPS; n++) {
    const at = x.from + ((x.to - x.from) * n) / STEPS;
    const value = of(at);
    const now: [number, number] | null = Number.isFinite(value) ? [at, value] : null;
    if (before && now && !isPole(of, before, now, height)) {
      const inside = clipped(before, now, y);
      if (!inside) end();
      else {
        const [from, to] = inside;
        if (run.length === 0 || run.at(-1)![0] !== from[0] || run.at(-1)![1] !== from[1]) {
          end();
          run.push(from);
        }
        run.push(to);
      }
    } else end();
    before = now;
  }
  end();
  return runs;
}

/** Between two samples of a pole, the curve leaves for one side and comes back from the other. */
function isPole(of: (x: number) => number, from: [number, number], to: [number, number], height: number): boolean {
  if (Math.abs(to[1] - from[1]) < height) return false;
  let [low, high] = [from, to];
  for (let n = 0; n < 30; n++) {
    const x = (low[0] + high[0]) / 2;
    const middle: [number, number] = [x, of(x)];
    if (!Number.isFinite(middle[1])) return true;
    if (Math.abs(middle[1] - low[1]) > Math.abs(high[1] - middle[1])) high = middle;
    else low = middle;
  }
  return Math.abs(high[1] - low[1]) > height / 2;
}

/** The part of a line between two places that lies within a range of y. */
function clipped(
  a: [number, number],
  b: [number, number],
  { from, to }: Range,
): [[number, number], [number, number]] | null {
  const rise = b[1] - a[1];
  if (rise === 0) return a[1] >= from && a[1] <= to ? [a, b] : null;
  const shares = [(from - a[1]) / rise, (to - a[1]) / rise].sort((p, q) => p - q);
  const [start, finish] = [Math.max(0, shares[0]), Math.min(1, shares[1])];
  if (start >= finish) return null;
  const at = (share: number): [number, number] => [a[0] + (b[0] - a[0]) * share, a[1] + rise * share];
  return [start === 0 ? a : at(start), finish === 1 ? b : at(finish)];
}
