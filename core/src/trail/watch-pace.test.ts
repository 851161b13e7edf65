import { describe, expect, it } from 'vitest';
import { InkPoints } from '../ink/points';
import type { PieceId } from '../lesson/ids';
import type { Mark } from '../lesson/mark';
import { newStroke, type Stroke } from '../lesson/piece';
import { base } from '../testing/arbitraries';
import { CLOCK_HZ } from './clock';
import { madeAt, momentsOfMaking } from './made-at';
import { Timeline } from './timeline';
import { silencesIn, speedAt, USUAL_PACE } from './watch-pace';

/** A line across the page, drawn between two seconds. */
const line = (id: string, [fromS, toS]: [number, number], yPt: number): Stroke =>
  newStroke({
    id: id as PieceId,
    z: 1,
    pen: { kind: 'pen', color: '#1f2a44', widthPt: 3 },
    points: InkPoints.from(
      [0, 1].map((share) => ({ xPt: 100 + 200 * share, yPt, pressure: 0.5, sinceMs: share * (toS - fromS) * 1000 })),
    ),
  });
const ink = (stroke: Stroke, fromS: number): Mark => ({
  kind: 'ink',
  page: base.shown,
  atSamples: fromS * CLOCK_HZ,
  stroke,
});
const there: Mark = { kind: 'place', page: base.shown, atSamples: 0, pieces: [line('there', [0, 1], 300)] };
const [a, b] = [line('a', [1, 2], 100), line('b', [12, 16], 104)];
const trail = {
  lengthSamples: 30 * CLOCK_HZ,
  marks: [there, ink(a, 1), ink(b, 12), { kind: 'lift', page: base.shown, atSamples: 20 * CLOCK_HZ, pieceIds: [b.id] }],
} as const;
const quiet = [
  [4, 5],
  [10, 18],
  [22, 29],
].map(([from, to]) => ({ fromSamples: from * CLOCK_HZ, toSamples: to * CLOCK_HZ }));

describe('how fast a student watches', () => {
  const silences = silencesIn(trail, quiet);
  const speeds = (more: Partial<typeof USUAL_PACE>) =>
    [2, 4.5, 14, 25].map((at) => speedAt(silences, { ...USUAL_PACE, ...more }, at * CLOCK_HZ));

  it('is a speed for speech and another for writing in silence; pauses alone are stretched', () => {
    expect(speeds({})).toEqual([1, 1, 1, 1]);
    expect(speeds({ voice: 1.5, ink: 1.5 })).toEqual([1.5, 1.5, 1.5, 1.5]);
    expect(speeds({ ink: 8 })).toEqual([1, 1, 8, 1]);
    expect(speeds({ voice: 0.5, ink: 0.25 })).toEqual([0.5, 0.5, 0.25, 0.5]);
    expect(speeds({ pauses: 4 })).toEqual([1, 0.25, 1, 0.25]);
  });

  it('does not begin within a phrase', () => {
    const edges = [10, 10.05, 17.95, 18];
    expect(edges.map((at) => speedAt(silences, { ...USUAL_PACE, ink: 4 }, at * CLOCK_HZ))).toEqual([1, 1, 1, 1]);
  });
});

describe('a mark that is touched', () => {
  const timeline = new Timeline(base, trail);
  const moments = momentsOfMaking(trail);
  const touched = (atS: number, yPt: number, reach = 6) =>
    madeAt(moments, timeline.at(atS * CLOCK_HZ), { xPt: 150, yPt }, reach);

  it('tells when it was begun; what lay there before, and bare paper, tell nothing', () => {
    expect(touched(19, 100)).toBe(CLOCK_HZ);
    expect(touched(19, 105)).toBe(12 * CLOCK_HZ);
    expect(touched(19, 300)).toBe(null);
    expect(touched(19, 200)).toBe(null);
  });

  it('is one that is seen just then', () => {
    expect(touched(5, 104, 2)).toBe(null);
    expect(touched(25, 105, 8)).toBe(CLOCK_HZ);
  });
});
