import type { Range, Run } from './sampling';

/** Cells along each side; a plot is looked at a few hundred points wide. */
const CELLS = 160;
const HALVINGS = 24;

/**
 * The lines along which a function of two variables is zero, within ranges of x and y: marching squares (C. Maple,
 * "Geometric design and space planning using the marching squares and marching cube algorithms", 2003; from memory), with each crossing found by halving.
 * Lines that the function only touches, without changing its sign, are not found. There is no line where it leaps over zero.
 */
export function contours(of: (x: number, y: number) => number, x: Range, y: Range): Run[] {
  const atX = (column: number) => x.from + ((x.to - x.from) * column) / CELLS;
  const atY = (row: number) => y.from + ((y.to - y.from) * row) / CELLS;
  const values = Float64Array.from({ length: (CELLS + 1) ** 2 }, (_, i) =>
    of(atX(i % (CELLS + 1)), atY(Math.floor(i / (CELLS + 1)))),
  );
  const valueAt = (column: number, row: number) => values[row * (CELLS + 1) + column];

  /** Where zero is crossed on the edge that goes from a node to the right, or up; `null` where it is not. */
  const crossings = new Map<number, [number, number] | null>();
  function crossingOn(column: number, row: number, isUp: boolean): number | null {
    const edge = (row * (CELLS + 1) + column) * 2 + (isUp ? 1 : 0);
    if (!crossings.has(edge)) {
      const [toColumn, toRow] = isUp ? [column, row + 1] : [column + 1, row];
      const from = { at: [atX(column), atY(row)] as const, value: valueAt(column, row) };
      const to = { at: [atX(toColumn), atY(toRow)] as const, value: valueAt(toColumn, toRow) };
      crossings.set(edge, isNegative(from.value) === isNegative(to.value) ? null : zeroBetween(of, from, to));
    }
    return crossings.get(edge) ? edge : null;
  }

  /** To which crossings a line goes on from each. */
  const next = new Map<number, number[]>();
  const join = (one: number, other: number) => {
    next.set(one, [...(next.get(one) ?? []), other]);
    next.set(other, [...(next.get(other) ?? []), one]);
  };
  for (let row = 0; row < CELLS; row++) {
    for (let column = 0; column < CELLS; column++) {
      const corners = [
        valueAt(column, row),
        valueAt(column + 1, row),
        valueAt(column + 1, row + 1),
        valueAt(column, row + 1),
      ];
      if (!corners.every(Number.isFinite)) continue;
      const bottom = crossingOn(column, row, false);
      const right = crossingOn(column + 1, row, true);
      const top = crossingOn(column, row + 1, false);
      const left = crossingOn(column, row, true);
      const crossed = [bottom, right, top, left].filter((edge) => edge !== null);
      if (crossed.length === 2) join(crossed[0], crossed[1]);
      // A saddle: its middle says which corners belong together.
      if (crossed.length === 4) {
        const middle = of(atX(column + 0.5), atY(row + 0.5));
        const isWithFirst = isNegative(middle) === isNegative(corners[0]);
        join(bottom!, isWithFirst ? right! : left!);
        join(top!, isWithFirst ? left! : right!);
      }
    }
  }
  return chained(next).map((edges) => edges.map((edge) => crossings.get(edge)!));
}

const isNegative = (value: number) => value < 0;

interface Sample {
  at: readonly [number, number];
  value: number;
}

/** @returns `null` where the function leaps from one sign to the other, or has no value between */
function zeroBetween(of: (x: number, y: number) => number, from: Sample, to: Sample): [number, number] | null {
  let [low, high] = [from, to];
  for (let n = 0; n < HALVINGS; n++) {
    const at = [(low.at[0] + high.at[0]) / 2, (low.at[1] + high.at[1]) / 2] as const;
    const value = of(...at);
    if (!Number.isFinite(value)) return null;
    if (isNegative(value) === isNegative(low.value)) low = { at, value };
    else high = { at, value };
  }
  const leap = Math.abs(high.value - low.value);
  const isLeap = leap > Math.abs(from.value - to.value) / 4;
  return isLeap ? null : [high.at[0], high.at[1]];
}

/** Crossings in the order in which their lines go through them: open lines from an end, then closed ones. */
function chained(next: ReadonlyMap<number, readonly number[]>): number[][] {
  const seen = new Set<number>();
  const chains: number[][] = [];
  const ends = [...next.keys()].filter((edge) => next.get(edge)!.length === 1);
  for (const start of [...ends, ...next.keys()]) {
    if (seen.has(start)) continue;
    const chain: number[] = [];
    for (let at: number | undefined = start; at !== undefined; at = next.get(at)!.find((one) => !seen.has(one))) {
      seen.add(at);
      chain.push(at);
    }
    // A line that comes back to where it began is closed.
    if (chain.length > 2 && next.get(chain.at(-1)!)!.includes(start)) chain.push(start);
    chains.push(chain);
  }
  return chains.filter((chain) => chain.length > 1);
}
