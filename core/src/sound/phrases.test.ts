import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CLOCK_HZ } from '../trail/clock';
import { phraseStart, quietIn } from './phrases';

const seconds = (stretches: ReturnType<typeof quietIn>) =>
  stretches.map(({ fromSamples, toSamples }) => [fromSamples / CLOCK_HZ, toSamples / CLOCK_HZ]);

describe('what is quiet between phrases', () => {
  it('is found by how loud the voice is elsewhere', () => {
    // Ten steps a second: two seconds of speech, half a second of room, speech, a breath, speech, and silence.
    const steps = [
      ...Array(20).fill(140),
      ...Array(5).fill(12),
      ...Array(10).fill(120),
      20,
      20,
      ...Array(12).fill(150),
    ];
    const loudness = Uint8Array.from([...steps, ...Array(11).fill(0)]);
    expect(seconds(quietIn(loudness, 6 * CLOCK_HZ))).toEqual([
      [2, 2.5],
      [4.9, 6],
    ]);
    // Who whispers is heard all the same.
    expect(
      quietIn(
        loudness.map((one) => one / 4),
        6 * CLOCK_HZ,
      ),
    ).toHaveLength(2);
  });

  it('is all of it where nobody speaks, and lies in order within it whatever is heard', () => {
    expect(seconds(quietIn(new Uint8Array(), 3 * CLOCK_HZ))).toEqual([[0, 3]]);
    expect(quietIn(new Uint8Array(40), 0)).toEqual([]);
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), fc.nat(9_000_000), (loudness, length) => {
        let last = 0;
        for (const { fromSamples, toSamples } of quietIn(loudness, length)) {
          expect(fromSamples >= last && toSamples > fromSamples && toSamples <= length).toBe(true);
          last = toSamples;
        }
      }),
    );
  });

  it('tells where to begin to hear what is said at a moment', () => {
    const quiet = [
      { fromSamples: 2 * CLOCK_HZ, toSamples: 3 * CLOCK_HZ },
      { fromSamples: 20 * CLOCK_HZ, toSamples: 24 * CLOCK_HZ },
    ];
    const start = (at: number) => phraseStart(quiet, at * CLOCK_HZ) / CLOCK_HZ;
    expect(start(5)).toBe(3);
    // A little before it where the phrase began long ago, where it is written in silence, and right at a phrase's beginning.
    for (const at of [15, 22, 3.1]) expect(start(at)).toBeCloseTo(at - 0.6, 5);
    expect(start(0.2)).toBe(0);
  });
});
