import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { TakeId } from '../lesson/ids';
import { programme as anyProgramme } from '../testing/arbitraries';
import { secondsToSamples } from './clock';
import { programmeLength, type Programme } from './programme';
import { addedSums, noVisits, stepAt, stepCount, sumsFor, type VisitSums } from './visits';

const take = 'knot' as TakeId;
const seconds = (from: number, to: number): Programme[number] => ({
  kind: 'play',
  take,
  fromSamples: secondsToSamples(from),
  toSamples: secondsToSamples(to),
  pace: 1,
});
const sumsOf = (lengthSeconds: number, given: Partial<VisitSums>): VisitSums => ({
  ...noVisits(secondsToSamples(lengthSeconds)),
  ...given,
});
const total = (counts: readonly number[]) => counts.reduce((sum, one) => sum + one, 0);

describe('steps', () => {
  it('are of two seconds, and longer in long lessons', () => {
    expect([0, 1, 2, 2.1, 400, 3600].map((one) => stepCount(secondsToSamples(one)))).toEqual([1, 1, 1, 2, 200, 200]);
    const hour = secondsToSamples(3600);
    expect([0, 17.9, 18, 3599, 3600, 9999, -1].map((at) => stepAt(hour, secondsToSamples(at)))).toEqual([
      0, 0, 1, 199, 199, 199, 0,
    ]);
  });
});

describe('what was counted of another edit', () => {
  it('is found where it plays now; what was cut out, at what follows', () => {
    const counted = sumsOf(10, {
      heard: [5, 4, 3, 2, 1],
      wentBack: [0, 1, 0, 2, 0],
      slowed: [0, 0, 7, 0, 0],
      stopped: [1, 0, 1, 0, 3],
      furthest: [0, 0, 2, 0, 3],
    });
    const whole = [seconds(0, 10)];
    expect(sumsFor(whole, whole, counted)).toEqual(counted);
    // From 2 to 4 seconds is cut out.
    expect(sumsFor([seconds(0, 2), seconds(4, 10)], whole, counted)).toEqual({
      heard: [5, 3, 2, 1],
      wentBack: [0, 1, 2, 0],
      slowed: [0, 7, 0, 0],
      stopped: [1, 1, 0, 3],
      furthest: [0, 2, 0, 3],
    });
    // The end is cut out.
    expect(sumsFor([seconds(0, 4)], whole, counted).stopped).toEqual([1, 4]);
    // All was done anew.
    const anew: Programme = [{ ...seconds(0, 4), take: 'other' as TakeId } as Programme[number]];
    expect(sumsFor(anew, whole, counted)).toMatchObject({ heard: [0, 0], furthest: [0, 5] });
  });

  it('loses no visit, whatever is edited', () => {
    fc.assert(
      fc.property(
        anyProgramme,
        anyProgramme,
        fc.array(fc.nat(9), { minLength: 200, maxLength: 200 }),
        (to, from, any) => {
          const counts = any.slice(0, stepCount(programmeLength(from)));
          const sums = { heard: counts, wentBack: counts, slowed: counts, stopped: counts, furthest: counts };
          const found = sumsFor(to, from, sums);
          for (const list of Object.values(found)) expect(list).toHaveLength(stepCount(programmeLength(to)));
          for (const key of ['wentBack', 'stopped', 'furthest'] as const) expect(total(found[key])).toBe(total(counts));
          expect(Math.max(0, ...found.heard)).toBeLessThanOrEqual(Math.max(0, ...counts));
        },
      ),
    );
  });
});

it('adds what two links were watched', () => {
  const one = sumsOf(4, { heard: [1, 2], stopped: [0, 1] });
  expect(addedSums(one, one)).toEqual(sumsOf(4, { heard: [2, 4], stopped: [0, 2] }));
});
