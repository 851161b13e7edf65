import { SHOWN } from '@kite-trail/core/contract/live';
import { decodeSightChange } from '@kite-trail/core/formats/sight-coding';
import { InkPoints } from '@kite-trail/core/ink/points';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import { newStroke } from '@kite-trail/core/lesson/piece';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { applyChange, sceneOf, shownPage } from '@kite-trail/core/lesson/scene';
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
        shower.show(() => sightOf(scene));
        for (const one of acts) {
          if (one === 'ready' || one === 'lost') {
            line.isReady = one === 'ready';
            // Whoever hears on a new line knows nothing.
            if (line.isReady) line.seen = null;
            if (line.isReady) shower.ready(true);
          } else if (one === 'slow') line.isReady = false;
          else if (one === 'wait') vi.advanceTimersByTime(50);
          else {
            scene = applyChange(scene, one);
            shower.show(() => sightOf(scene));
          }
        }
        line.isReady = true;
        line.seen = null;
        shower.ready(true);
        vi.advanceTimersByTime(50);
        expect(line.seen).toEqual(sightOf(scene));
        shower.checkpoint();
        vi.advanceTimersByTime(50);
        expect(line.whole).toEqual(line.seen);
        shower.stop();
      }),
      { numRuns: 200 },
    );
  });

  it('is told to those who come later in its turn, also over a line that takes one thing after the other', () => {
    const line = new FakeLine();
    const shower = new Shower(line);
    const order: number[] = [];
    line.say = (kind) => {
      order.push(kind);
      line.isReady = false;
    };
    const lookTo = (right: number) => () => sightOf({ ...given.base, look: { left: 0, top: 0, right, bottom: 100 } });
    const ready = () => {
      line.isReady = true;
      shower.ready(false);
      vi.advanceTimersByTime(50);
    };
    shower.show(lookTo(100));
    ready();
    // It is wanted while something else is on its way, and more is to be seen.
    shower.checkpoint();
    shower.show(lookTo(200));
    for (let n = 0; n < 3; n++) ready();
    expect(order).toEqual([SHOWN.whole, SHOWN.checkpoint, SHOWN.change]);
  });

  it('tells where it is more than can be told', () => {
    const line = new FakeLine();
    line.isReady = true;
    const shower = new Shower(line, 200);
    const tooMuch = vi.spyOn(shower, 'onTooMuch');
    shower.show(() => sightOf(given.base));
    vi.advanceTimersByTime(50);
    expect([line.said, tooMuch.mock.calls.length]).toEqual([1, 0]);
    const samples = Array.from({ length: 300 }, (_, i) => ({ xPt: i, yPt: (i * 31) % 90, pressure: 0.5, sinceMs: i }));
    const pen = { kind: 'pen', color: '#1f2a44', widthPt: 2 } as const;
    const stroke = newStroke({ id: 'a-stroke' as PieceId, z: 1, pen, points: InkPoints.from(samples) });
    shower.show(() => sightOf(applyChange(given.base, { kind: 'ink', page: given.base.shown, stroke })));
    vi.advanceTimersByTime(50);
    expect([line.said, tooMuch.mock.calls.length]).toEqual([1, 1]);
    // It is followed again from another page on.
    const elsewhere = sceneOf([{ page: wideSquaredPage('another-page' as PageId), pieces: [] }]);
    shower.show(() => sightOf(elsewhere));
    vi.advanceTimersByTime(50);
    expect(line.seen).toEqual(sightOf(elsewhere));
    expect(tooMuch).toHaveBeenCalledOnce();
  });

  it('goes out no more often than thirty times a second, and not at all where nothing changes', () => {
    const line = new FakeLine();
    line.isReady = true;
    const shower = new Shower(line);
    for (let n = 0; n < 100; n++) {
      shower.show(() => sightOf({ ...given.base, look: { left: 0, top: 0, right: 100 + n, bottom: 100 } }));
      vi.advanceTimersByTime(10);
    }
    vi.advanceTimersByTime(100);
    expect(line.said).toBeGreaterThan(20);
    expect(line.said).toBeLessThanOrEqual(32);
    const before = line.said;
    shower.show(() => sightOf({ ...given.base, look: { left: 0, top: 0, right: 199, bottom: 100 } }));
    vi.advanceTimersByTime(100);
    expect(line.said).toBe(before);
  });
});
