import { all, create, type MathNode } from 'mathjs';
import { contours } from './contours';
import { sampled, type Range, type Run } from './sampling';

/** A curve that cannot be plotted. The message says why. */
export class PlotProblem extends Error {
  override readonly name = 'PlotProblem';
}

const math = create(all);
const parse = math.parse.bind(math) as (expression: string) => MathNode;
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

/** An equals sign, but none of `==`, `<=`, `>=` and `!=`. */
const EQUALS = /(?<![=<>!])=(?!=)/;

/**
 * What an expression draws within ranges of x and y: a function (`sin(x)`, `y = …`, `f(x) = …`, `x = …`), or all places at which the two
 * sides of an equation are the same (`x^2 + y^2 = 4`).
 * @throws PlotProblem when it is not understood
 */
export function curveOf(expression: string): (x: Range, y: Range) => Run[] {
  const sides = expression.split(EQUALS);
  if (sides.length > 2) throw new PlotProblem(`“${expression}” has more than one equals sign.`);
  const [left, right] = sides.length === 2 ? sides.map((side) => side.trim()) : ['y', sides[0]];
  if (left === '') throw new PlotProblem(`“${expression}” has nothing before its equals sign.`);
  // Somebody is about to type it.
  if (right === '') return () => [];
  const value = understood(right, expression);
  if ((left === 'y' || /^f\s*\(\s*x\s*\)$/.test(left)) && !value.names.has('y')) {
    return (x, y) => sampled((at) => value.at(at, NaN), x, y);
  }
  if (left === 'x' && !value.names.has('x')) {
    return (x, y) =>
      sampled((at) => value.at(NaN, at), y, x).map((run) => run.map(([along, across]) => [across, along]));
  }
  const other = understood(left, expression);
  return (x, y) => contours((atX, atY) => other.at(atX, atY) - value.at(atX, atY), x, y);
}

/** @throws PlotProblem */
function understood(
  side: string,
  expression: string,
): { names: ReadonlySet<string>; at(x: number, y: number): number } {
  try {
    const node = parse(side);
    const names = new Set(
      node.filter((one) => one.type === 'SymbolNode').map((one) => (one as MathNode & { name: string }).name),
    );
    const compiled = node.compile();
    compiled.evaluate({ x: 0.5, y: 0.5 });
    return {
      names,
      at(x, y) {
        const value: unknown = compiled.evaluate({ x, y });
        // Where a curve has no real value, it is not drawn.
        return typeof value === 'number' ? value : NaN;
      },
    };
  } catch (error) {
    throw new PlotProblem(`“${expression}” is not understood: ${(error as Error).message}`);
  }
}
