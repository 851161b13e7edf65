import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { markEndSamples } from '../lesson/mark';
import { marks, TAKE_SAMPLES } from '../testing/arbitraries';
import { InkWaits } from './ink-waits';
import { placeTake, planFor } from './plan';
import { whole } from './edit';
import { programmeLength, toTake, placeSegments, takesTime } from './programme';
import type { TakeId } from '../lesson/ids';

const SECOND = 48_000;

describe('ink that waits for a voice', () => {
  it('follows the voice, waits, and goes on where it was', () => {
    const waits = new InkWaits([], 0, 10 * SECOND);
    expect(waits.inkAt(2 * SECOND)).toBe(2 * SECOND);
    waits.hold(2 * SECOND);
    expect(waits.isHolding).toBe(true);
    expect(waits.inkAt(5 * SECOND)).toBe(2 * SECOND);
    waits.release(5 * SECOND);
    expect(waits.inkAt(6 * SECOND)).toBe(3 * SECOND);
    expect(waits.holdsAt(9 * SECOND)).toEqual([{ atSamples: 2 * SECOND, forSamples: 3 * SECOND }]);
    expect(waits.inkAt(60 * SECOND)).toBe(10 * SECOND);
  });

  it('never waits in the middle of a stroke', () => {
    fc.assert(
      fc.property(marks, fc.nat(TAKE_SAMPLES), (written, at) => {
        const waits = new InkWaits(written, 0, TAKE_SAMPLES);
        waits.hold(at);
        const stands = waits.inkAt(Infinity);
        expect(stands).toBeGreaterThanOrEqual(Math.min(at, TAKE_SAMPLES));
        if (stands === TAKE_SAMPLES) return;
        for (const mark of written)
          if (mark.atSamples < stands) expect(markEndSamples(mark)).toBeLessThanOrEqual(stands);
      }),
    );
  });

  it('is played back as it was seen while it was spoken', () => {
    const press = fc.record({
      after: fc.integer({ min: 1, max: 90_000 }),
      forSamples: fc.integer({ min: 1, max: 90_000 }),
    });
    fc.assert(
      fc.property(fc.array(press, { maxLength: 4 }), fc.integer({ min: 1, max: 700_000 }), (presses, length) => {
        const old = whole({ id: 'old' as TakeId, lengthSamples: 12 * SECOND });
        const { fromSamples, replaced } = planFor('re-speak', [old], SECOND, 9 * SECOND);
        const waits = new InkWaits([], SECOND, 8 * SECOND);
        const seen: [voice: number, ink: number][] = [];
        let voice = 0;
        const speak = (samples: number) => {
          for (const end = Math.min(length, voice + samples); voice < end; voice += 997)
            seen.push([voice, waits.inkAt(voice)]);
          voice = Math.min(voice, length);
        };
        for (const { after, forSamples } of presses) {
          speak(after);
          if (voice < length) waits.hold(voice);
          speak(forSamples);
          if (voice < length) waits.release(voice);
        }
        speak(length);
        const take = {
          id: 'new' as TakeId,
          lengthSamples: length,
          plan: { kind: 're-speak' as const, fromSamples, replaced, holds: waits.holdsAt(length) },
        };
        const programme = placeTake([old], take)!;
        const placed = placeSegments(programme);
        expect(programmeLength(programme)).toBeGreaterThanOrEqual(12 * SECOND);
        for (const [spoken, ink] of seen) {
          const found = toTake(placed, SECOND + spoken)!;
          const { segment } = found.placed;
          const over = takesTime(segment) ? segment.voice : null;
          // While the ink waits, the new take plays by itself; else its voice lies over the old ink.
          if (segment.take === 'new') continue;
          expect(over?.take).toBe('new');
          expect(found.takeSamples).toBe(SECOND + ink);
        }
      }),
    );
  });
});
