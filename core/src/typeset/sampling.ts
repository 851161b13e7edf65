export interface Range {
  from: number;
  to: number;
}

/** Places of a curve, one after the other. */
export type Run = [x: number, y: number][];

const STEPS = 720;

/** The runs of a curve that lie within the ranges. It is broken at poles, and where it has no value. */
export function sampled(of: (x: number) => number, x: Range, y: Range): Run[] {
  const runs: Run[] = [];
  let run: Run = [];
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
