import { SHOWN } from '@kite-trail/core/contract/live';
import { decodeSightChange } from '@kite-trail/core/formats/sight-coding';
import { applyChange, shownPage } from '@kite-trail/core/lesson/scene';
import { withChange, type Sight } from '@kite-trail/core/live/sight';
import * as given from '@kite-trail/core/testing/arbitraries';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Shower, type Line } from './shower';

/** A line with somebody at its other end. */
class FakeLine implements Line {
  isReady = false;
  seen: Sight | null = null;
  /** What a late comer is shown. */
  whole: Sight | null = null;
  said = 0;

  say(kind: number, bytes: Uint8Array): void {
    this.said++;
    const change = decodeSightChange(bytes);
    if (kind === SHOWN.checkpoint) this.whole = withChange(null, change);
    else this.seen = withChange(this.seen, change);
  }
}

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

const sightOf = (scene: typeof given.base): Sight => ({
  state: shownPage(scene),
  look: scene.look,
  growing: new Map(),
  wet: [],
  passing: [],
});

describe('what is shown live', () => {
  const act = fc.oneof(
    { weight: 6, arbitrary: given.change },
    { weight: 1, arbitrary: fc.constantFrom('ready' as const, 'slow' as const, 'lost' as const, 'wait' as const) },
  );

  it('is in the end what is seen, whatever becomes of the line meanwhile', () => {
    fc.assert(
      fc.property(fc.array(act, { maxLength: 40 }), (acts) => {
        const line = new FakeLine();
        const shower = new Shower(line);
        let scene = given.base;
        shower.show(sightOf(scene));
        for (const one of acts) {
          if (one === 'ready' || one === 'lost') {
            line.isReady = one === 'ready';
            // Whoever hears on a new line knows nothing.
            if (line.isReady) line.seen = null;
            if (line.isReady) shower.ready(true);
          } else if (one === 'slow') line.isReady = false;
          else if (one === 'wait') vi.advanceTimersByTime(50);
          else shower.show(sightOf((scene = applyChange(scene, one))));
        }
        line.isReady = true;
        line.seen = null;
        shower.ready(true);
        vi.advanceTimersByTime(50);
        expect(line.seen).toEqual(sightOf(scene));
        shower.checkpoint();
        expect(line.whole).toEqual(line.seen);
        shower.stop();
      }),
      { numRuns: 200 },
    );
  });

  it('goes out no more often than thirty times a second, and not at all where nothing changes', () => {
    const line = new FakeLine();
    line.isReady = true;
    const shower = new Shower(line);
    for (let n = 0; n < 100; n++) {
      shower.show(sightOf({ ...given.base, look: { left: 0, top: 0, right: 100 + n, bottom: 100 } }));
      vi.advanceTimersByTime(10);
    }
    vi.advanceTimersByTime(100);
    expect(line.said).toBeGreaterThan(20);
    expect(line.said).toBeLessThanOrEqual(32);
    const before = line.said;
    shower.show(sightOf({ ...given.base, look: { left: 0, top: 0, right: 199, bottom: 100 } }));
    vi.advanceTimersByTime(100);
    expect(line.said).toBe(before);
  });
});
