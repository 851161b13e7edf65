import { describe, expect, it } from 'vitest';
import { SteadyHand } from './steady-hand';

const STEP_MS = 1000 / 240;

/** A repeatable tremble of about 0.5 px (standard deviation), as digitisers have it. */
function tremble(n: number): number {
  const uniform = (k: number) => (((Math.sin(k * 12.9898) * 43758.5453) % 1) + 1) % 1;
  return Math.sqrt(-2 * Math.log(uniform(n * 2 + 1) + 1e-9)) * Math.cos(2 * Math.PI * uniform(n * 2 + 2)) * 0.5;
}

const spread = (values: number[]) => {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  return Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
};

/** Algorithm 1 of the paper, written down again, as a second opinion. */
function paperFilter(minCutoff: number, beta: number, dCutoff: number) {
  const alpha = (cutoff: number, seconds: number) => 1 / (1 + 1 / (2 * Math.PI * cutoff) / seconds);
  let last: { x: number; dx: number; at: number } | null = null;
  return (raw: number, at: number): number => {
    if (!last) {
      last = { x: raw, dx: 0, at };
      return raw;
    }
    const seconds = at - last.at;
    const a = alpha(dCutoff, seconds);
    const dx = a * ((raw - last.x) / seconds) + (1 - a) * last.dx;
    const b = alpha(minCutoff + beta * Math.abs(dx), seconds);
    const x = b * raw + (1 - b) * last.x;
    last = { x, dx, at };
    return x;
  };
}

describe('a steady hand', () => {
  it('is a hand at rest, with a third of its tremble at most', () => {
    const hand = new SteadyHand();
    const raw = Array.from({ length: 480 }, (_, n) => 300 + tremble(n));
    const steady = raw.map((x, n) => hand.next(x, 100, n * STEP_MS).xPx);
    expect(spread(raw)).toBeGreaterThan(0.4);
    expect(spread(steady.slice(60))).toBeLessThan(spread(raw) / 3);
  });

  it.each([100, 300, 600, 1500])('is never more than 1.5 px behind, at %d px a second', (speed) => {
    const hand = new SteadyHand();
    let worst = 0;
    for (let n = 0; n < 240; n++) {
      const x = (speed * n * STEP_MS) / 1000;
      const behind = Math.abs(x - hand.next(x, 0, n * STEP_MS).xPx);
      if (n > 24) worst = Math.max(worst, behind);
    }
    expect(worst).toBeLessThan(1.5);
  });

  it('does what the paper says', () => {
    const hand = new SteadyHand();
    const paper = paperFilter(4, 0.16, 6);
    for (let n = 0; n < 300; n++) {
      const x = 200 * Math.sin(n / 20) + tremble(n);
      expect(hand.next(x, 0, 1000 + n * STEP_MS).xPx).toBeCloseTo(paper(x, 1 + (n * STEP_MS) / 1000), 6);
    }
  });

  it('stays where it is when two samples are of one moment', () => {
    const hand = new SteadyHand();
    hand.next(10, 10, 5);
    expect(hand.next(400, 400, 5)).toMatchObject({ xPx: 10, yPx: 10 });
    expect(Number.isFinite(hand.next(12, 10, 9).xPx)).toBe(true);
  });
});
