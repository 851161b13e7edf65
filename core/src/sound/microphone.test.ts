import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seeded } from '../random/seeded';
import { delayOfTaps, findKnocks } from './tap-delay';
import { VoiceCheck, type VoiceVerdict } from './voice-check';

const HZ = 48_000;

/** Bursts of a 150 Hz buzz with pauses, as speech is, over noise; levels in dBFS (root mean square). */
function speech(voiceDb: number, noiseDb: number, seconds = 5): Float32Array {
  const random = seeded(7);
  const [voice, noise] = [10 ** (voiceDb / 20) * Math.SQRT2, 10 ** (noiseDb / 20) * Math.sqrt(3)];
  return Float32Array.from({ length: seconds * HZ }, (_, i) => {
    const speaks = i % (HZ / 2) < HZ / 3;
    return (speaks ? voice * Math.sin((2 * Math.PI * 150 * i) / HZ) : 0) + noise * (2 * random() - 1);
  });
}

const verdictOf = (samples: Float32Array): VoiceVerdict => {
  const check = new VoiceCheck();
  for (let at = 0; at < samples.length; at += 2048) check.add(samples.subarray(at, at + 2048));
  return check.verdict;
};

describe('the check of a voice', () => {
  it.each([
    ['nominal speech (ITU-T G.100.1) in a quiet room', speech(-26, -65), 'good'],
    ['a whisper far away', speech(-46, -75), 'quiet'],
    ['speech in a noisy room', speech(-26, -36), 'noisy'],
    ['a room in which nobody speaks', speech(-200, -65), 'listening'],
    ['a muted input', speech(-200, -200), 'silent'],
    ['a voice that was cut off', speech(6, -65).map((one) => Math.max(-1, Math.min(1, one))), 'clipping'],
    ['half a second', speech(-26, -65, 0.5), 'listening'],
  ] as const)('tells %s', (_, samples, verdict) => expect(verdictOf(samples)).toBe(verdict));

  it('forgets what was wrong after four seconds', () => {
    const check = new VoiceCheck();
    check.add(new Float32Array(HZ).fill(1));
    check.add(new Float32Array(HZ));
    expect(check.verdict).toBe('clipping');
    check.add(speech(-26, -65, 5));
    expect(check.verdict).toBe('good');
  });
});

/** Knocks that die away, over a little noise. */
function knocking(atSamples: readonly number[], length: number, noise: number): Float32Array {
  const random = seeded(3);
  const samples = Float32Array.from({ length }, () => noise * (2 * random() - 1));
  for (const at of atSamples) {
    for (let i = 0; i < 2400 && at + i < length; i++) {
      samples[at + i] += 0.5 * Math.sin((2 * Math.PI * 900 * i) / HZ + 1) * Math.exp(-i / 300);
    }
  }
  return samples;
}

describe('the delay of taps', () => {
  it('finds every knock where it begins, whatever the noise', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(20_000), { minLength: 5, maxLength: 9 }), (gaps) => {
        let at = 6000;
        const knocks = gaps.map((gap) => (at += 12_000 + gap));
        const found = findKnocks(knocking(knocks, at + 12_000, 0.005));
        expect(found).toHaveLength(knocks.length);
        found.forEach((one, i) => expect(Math.abs(one - knocks[i])).toBeLessThan(HZ / 1000));
      }),
      { numRuns: 30 },
    );
  });

  it('is the delay most of the taps have, whatever else was heard', () => {
    const taps = [1, 2, 3, 4, 5, 6].map((second) => second * HZ);
    const knocks = [...taps.map((tap, i) => tap + 86 * 48 + (i % 3) * 48), 3.4 * HZ];
    const found = delayOfTaps(taps, knocks);
    expect(found).toMatchObject({ kind: 'measured', taps: 6 });
    expect(found.kind === 'measured' && found.delayMs).toBeCloseTo(87, 0);
  });

  it('is found however fast the taps, at any delay', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 160, max: 700 }),
        fc.integer({ min: -100, max: 400 }),
        fc.array(fc.integer({ min: -6, max: 6 }), { minLength: 6, maxLength: 12 }),
        (everyMs, delayMs, offMs) => {
          const taps = offMs.map((off, i) => (1000 + i * everyMs + off) * 48);
          const found = delayOfTaps(
            taps,
            taps.map((tap) => tap + delayMs * 48),
          );
          expect(found.kind === 'measured' && found.delayMs).toBeCloseTo(delayMs, 0);
        },
      ),
    );
    // Taps as even as a clock's: the knock of the tap before is nearer than a tap's own.
    const taps = Array.from({ length: 8 }, (_, i) => (1000 + i * 250) * 48);
    const knocks = taps.map((tap) => tap + 150 * 48);
    expect(delayOfTaps(taps, knocks)).toMatchObject({ kind: 'measured', delayMs: 150, taps: 8 });
  });

  it('says when there were too few, or they disagree', () => {
    expect(delayOfTaps([HZ, 2 * HZ], [HZ, 2 * HZ])).toEqual({ kind: 'too-few', taps: 2 });
    const taps = [1, 2, 3, 4, 5, 6].map((second) => second * HZ);
    expect(
      delayOfTaps(
        taps,
        taps.map((tap, i) => tap + i * 60 * 48),
      ).kind,
    ).toBe('uneven');
  });
});
