import { describe, expect, it } from 'vitest';
import { shownPage } from '../lesson/scene';
import { base } from '../testing/arbitraries';
import { inkAt } from '../testing/timed-ink';
import { FollowedSight } from './followed-sight';
import { sightChange, wholeOf, type SeenPassing, type Sight } from './sight';

const mark = inkAt('stroke-fading', 0, 1);
if (mark.kind !== 'ink') throw new Error('This is no ink.');
const { page, stroke } = mark;
const fading: SeenPassing = {
  change: { kind: 'ink', page, stroke: { ...stroke, pen: { ...stroke.pen, kind: 'fading' } } },
  sinceMs: 100,
  isHeld: false,
};

const sight = (more: Partial<Sight>): Sight => ({
  state: shownPage(base),
  look: null,
  growing: new Map(),
  wet: [],
  passing: [],
  ...more,
});

describe('what fades', () => {
  it('grows older while something else is told', () => {
    const followed = new FollowedSight();
    expect(followed.momentAt(0)).toBeNull();
    let shown = sight({ passing: [fading] });
    followed.take(wholeOf(shown), 1000);
    for (let nowMs = 1100; nowMs <= 3000; nowMs += 100) {
      const next = sight({ passing: [fading], look: { left: 0, top: 0, right: nowMs, bottom: 100 } });
      followed.take(sightChange(shown, next)!, nowMs);
      shown = next;
    }
    expect(followed.momentAt(3000)!.passing).toMatchObject([{ sinceMs: 2100 }]);
    expect(followed.isFadingAt(3000)).toBe(true);
    expect(followed.isFadingAt(30_000)).toBe(false);
  });

  it('stays as it is while it is held', () => {
    const followed = new FollowedSight();
    followed.take(wholeOf(sight({ passing: [{ ...fading, isHeld: true }] })), 0);
    expect(followed.momentAt(60_000)!.passing).toMatchObject([{ sinceMs: 100 }]);
    expect(followed.isFadingAt(0)).toBe(false);
    followed.forget();
    expect([followed.isKnown, followed.wet]).toEqual([false, []]);
  });
});
