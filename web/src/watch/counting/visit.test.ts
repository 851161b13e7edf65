import type { Watch } from '@kite-trail/core/contract/watch';
import { visitReport } from '@kite-trail/core/contract/visit';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Visit } from './visit';

const SECOND = 48_000;
const lesson = (seconds: number) => new Visit({ lengthSamples: seconds * SECOND } as Watch);

/** Plays from one second to another, ten times a second. */
function play(visit: Visit, from: number, to: number, rate = 1) {
  for (let tenth = Math.round(from * 10); tenth <= Math.round(to * 10); tenth++) visit.at((tenth / 10) * SECOND, rate);
}

describe('a visit', () => {
  it('tells what was heard, gone back to and slowed, for how long, and where it is', () => {
    const visit = lesson(20);
    play(visit, 0, 10);
    visit.at(4 * SECOND, 1);
    play(visit, 4, 7, 0.5);
    visit.at(7 * SECOND, 0);
    const { heard, wentBack, slowed, heardSeconds, at, n } = visit.report();
    expect(heard).toEqual([1, 1, 2, 2, 1, 1, 0, 0, 0, 0]);
    expect(wentBack).toEqual([0, 0, 1, 0, 0, 0, 0, 0, 0, 0]);
    expect(slowed[3]).toBe(1);
    // Three seconds at half the speed last six.
    expect(heardSeconds).toBeCloseTo(16, 5);
    expect([at, n]).toEqual([3, 0]);
  });

  it('tells everything once, and again what did not arrive', () => {
    const visit = lesson(20);
    play(visit, 0, 3);
    const first = visit.report();
    play(visit, 3, 5);
    const again = visit.report();
    expect([first.n, again.n]).toEqual([0, 0]);
    expect(again.heard.slice(0, 3)).toEqual([1, 1, 1]);
    // What happens while it is told is told next.
    play(visit, 5, 8);
    visit.hasBeenTold(again);
    visit.hasBeenTold(first);
    const next = visit.report();
    expect([next.n, next.heard.slice(0, 5), next.at]).toEqual([1, [0, 0, 0, 1, 1], 4]);
    expect(next.heardSeconds).toBeCloseTo(3, 5);
    visit.hasBeenTold(next);
    expect(visit.report()).toMatchObject({ n: 2, heard: Array(10).fill(0), at: 4 });
  });

  it('takes looking further on for no hearing, and going on where one was for no jump', () => {
    const visit = lesson(600);
    visit.beginAt(300 * SECOND);
    visit.at(300 * SECOND, 1);
    visit.at(500 * SECOND, 0);
    const { heard, wentBack } = visit.report();
    expect(heard.filter((count) => count > 0)).toEqual([1]);
    expect(wentBack.every((count) => count === 0)).toBe(true);
  });

  it('tells only what the school takes, whatever happens', () => {
    const moment = fc.record({ at: fc.integer({ min: -10, max: 20 * SECOND }), rate: fc.constantFrom(0, 0.5, 1, 8) });
    fc.assert(
      fc.property(fc.nat(40), fc.array(moment, { maxLength: 400 }), (seconds, moments) => {
        const visit = lesson(seconds);
        for (const { at, rate } of moments) visit.at(at, rate);
        expect(visitReport.safeParse(visit.report()).success).toBe(true);
      }),
    );
  });
});
