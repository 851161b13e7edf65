import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { curveOf, PlotProblem } from './equation';
import type { Run } from './sampling';

const x = { from: -4, to: 4 };
const y = { from: -3, to: 3 };
const drawn = (expression: string) => curveOf(expression)(x, y);
const lengthOf = (run: Run) =>
  run.slice(1).reduce((sum, [px, py], i) => sum + Math.hypot(px - run[i][0], py - run[i][1]), 0);

describe('an equation', () => {
  it('of x and y is drawn where its sides are the same: a circle, all the way round', () => {
    const runs = drawn('x^2 + y^2 = 4');
    expect(runs).toHaveLength(1);
    for (const [px, py] of runs[0]) expect(Math.hypot(px, py)).toBeCloseTo(2, 5);
    expect(runs[0][0]).toEqual(runs[0].at(-1));
    // The circumference of a circle of radius 2.
    expect(lengthOf(runs[0])).toBeCloseTo(4 * Math.PI, 2);
  });

  it('of an ellipse, whatever its half axes, is drawn through its four vertices', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.3, max: 3.5, noNaN: true }),
        fc.double({ min: 0.3, max: 2.5, noNaN: true }),
        (a, b) => {
          const runs = drawn(`x^2 / ${a.toFixed(6)}^2 + y^2 / ${b.toFixed(6)}^2 = 1`);
          expect(runs).toHaveLength(1);
          expect(Math.max(...runs[0].map(([px]) => px))).toBeCloseTo(a, 1);
          expect(Math.min(...runs[0].map(([, py]) => py))).toBeCloseTo(-b, 1);
        },
      ),
      { seed: 19, numRuns: 20 },
    );
  });

  it('for x is drawn along y', () => {
    const [line] = drawn('x = 2');
    expect([line[0], line.at(-1)]).toEqual([
      [2, -3],
      [2, 3],
    ]);
    for (const [px, py] of drawn('x = y^2 - 1').flat()) expect(px).toBeCloseTo(py ** 2 - 1, 3);
  });

  it('for y that has y on its other side, too, is drawn where both are the same', () => {
    for (const [px, py] of drawn('y = x / y').flat()) expect(py ** 2).toBeCloseTo(px, 4);
  });

  it('has two branches where it has, and none over a pole', () => {
    expect(drawn('x * y = 1')).toHaveLength(2);
    expect(drawn('1 / (x - y) = 0')).toEqual([]);
    // Two lines that cross.
    for (const [px, py] of drawn('x^2 = y^2').flat()) expect(Math.abs(px)).toBeCloseTo(Math.abs(py), 4);
  });

  it('is drawn within the ranges, and nowhere where it has no real value', () => {
    expect(drawn('x^2 + y^2 = -1')).toEqual([]);
    for (const [px, py] of drawn('x^2 + y^2 = 16').flat()) {
      expect(Math.abs(px)).toBeLessThanOrEqual(4);
      expect(Math.abs(py)).toBeLessThanOrEqual(3);
    }
    for (const [px] of drawn('sqrt(x) = y').flat()) expect(px).toBeGreaterThanOrEqual(0);
  });

  it('may be a function, without a word about y', () => {
    const runs = [drawn('sin(x)'), drawn('y = sin(x)'), drawn('f(x) = sin(x)')];
    expect(runs[0]).toEqual(runs[1]);
    expect(runs[0]).toEqual(runs[2]);
  });

  it('that is being typed draws nothing yet', () => {
    expect([drawn('y = '), drawn('x =')]).toEqual([[], []]);
  });

  it.each(['x = y = 2', 'x^2 +', '= 3', 'import("fs") = 1', 'depth = 2'])('is refused where it is none: %s', (bad) => {
    expect(() => curveOf(bad)).toThrow(PlotProblem);
  });
});
