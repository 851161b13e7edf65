import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seeded } from '../random/seeded';
import { PeakLevels, SAMPLES_PER_PEAK } from '../sound/peaks';
import { ProfileGatherer, profileOf, profileParts } from '../sound/profile';
import { FormatError } from './bytes';
import { decodeProfile, encodeProfile } from './profile-coding';

const SECOND = 48_000;

/** Noise that is loud for half of every two seconds. */
function heard(seconds: number): Float32Array {
  const random = seeded(5);
  return Float32Array.from({ length: seconds * SECOND }, (_, i) => {
    return (i % (2 * SECOND) < SECOND ? 0.4 : 0.003) * (2 * random() - 1);
  });
}

function gathered(samples: Float32Array, gatherer = new ProfileGatherer(), to = Infinity): ProfileGatherer {
  const end = Math.min(samples.length, to);
  for (let at = gatherer.beginSamples; at < end; at += 4801)
    gatherer.add(samples.subarray(at, Math.min(end, at + 4801)));
  return gatherer;
}

describe('what is known of a voice', () => {
  const profile = gathered(heard(8)).finish();

  it('reads back as it was written, to a hundredth of a decibel', () => {
    const read = decodeProfile(encodeProfile(profile));
    expect(read.peaks).toEqual(profile.peaks);
    expect(read.speech).toEqual(profile.speech);
    expect(read.speech).toHaveLength(4);
    for (const part of ['energies', 'noise'] as const) {
      expect(read[part]).toHaveLength(profile[part].length);
      expect(profile[part].length).toBeGreaterThan(0);
      read[part].forEach((one, i) => expect(Math.abs(10 * Math.log10(one / profile[part][i]))).toBeLessThan(0.006));
    }
  });

  it('is refused where it is damaged', () => {
    const bytes = encodeProfile(profile);
    expect(() => decodeProfile(bytes.subarray(0, 100))).toThrow(FormatError);
    expect(() => decodeProfile(Uint8Array.of(9))).toThrow(FormatError);
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 60 }), (any) => {
        try {
          decodeProfile(any);
        } catch (error) {
          expect(error).toBeInstanceOf(FormatError);
        }
      }),
    );
  });
});

describe('a long take', () => {
  it('is held in no more than its peaks and energies, and its noise is told as well', () => {
    const minute = heard(60);
    const [short, long] = [new ProfileGatherer(), new ProfileGatherer()];
    short.add(minute);
    for (let n = 0; n < 10; n++) long.add(minute);
    const [once, tenTimes] = [short.finish(), long.finish()];
    expect(tenTimes.peaks).toHaveLength(10 * once.peaks.length);
    expect(tenTimes.energies).toHaveLength(10 * once.energies.length);
    const levelDb = (noise: Float32Array) => 10 * Math.log10(noise.reduce((sum, one) => sum + one, 0));
    expect(Math.abs(levelDb(tenTimes.noise) - levelDb(once.noise))).toBeLessThan(0.5);
  });
});

describe('a take that is listened to in parts', () => {
  const sound = heard(40).map((sample, i) => sample + 0.1 + 0.05 * Math.sin(i / 300));

  it('is known as one that is listened to at once', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 * SECOND }), fc.integer({ min: 1, max: 6 }), (length, count) => {
        const take = sound.subarray(0, length);
        const whole = gathered(take).finish();
        const parts = profileParts(length, count);
        const found = profileOf(
          parts.map(({ fromSamples, toSamples }) =>
            gathered(take, new ProfileGatherer(fromSamples), toSamples).finishPart(),
          ),
        );
        expect(parts.length).toBeLessThanOrEqual(count);
        expect(found.peaks).toEqual(whole.peaks);
        expect(found.speech).toEqual(whole.speech);
        expect(found.energies).toHaveLength(whole.energies.length);
        const apart = found.energies.map((energy, i) => Math.abs(energy - whole.energies[i]));
        expect(Math.max(0, ...apart)).toBeLessThan(1e-6);
        expect(found.noise).toEqual(whole.noise);
      }),
      { numRuns: 20 },
    );
  });

  it('may go on longer than is known', () => {
    expect(profileParts(90 * SECOND, 2)).toEqual([
      { fromSamples: 0, toSamples: 45 * SECOND },
      { fromSamples: 45 * SECOND, toSamples: Infinity },
    ]);
    expect(profileParts(0, 4)).toEqual([{ fromSamples: 0, toSamples: Infinity }]);
  });
});

describe('peaks of any zoom', () => {
  it('miss no sound between columns that follow one another, and none is higher than the sound around it', () => {
    const samples = heard(6);
    const { peaks } = gathered(samples).finish();
    const levels = new PeakLevels(peaks);
    const highest = (of: Float32Array) => of.reduce((most, one) => Math.max(most, Math.abs(one)), 0);
    const columns = fc.integer({ min: 2, max: 9 });
    fc.assert(
      fc.property(
        fc.nat(SECOND),
        columns,
        fc.integer({ min: SAMPLES_PER_PEAK, max: SECOND / 2 }),
        (from, count, width) => {
          const shown = Array.from({ length: count }, (_, i) =>
            levels.highest(from + i * width, from + (i + 1) * width),
          );
          const to = from + count * width;
          expect(Math.max(...shown)).toBeGreaterThanOrEqual(highest(samples.subarray(from, to - width)) - 1 / 255);
          shown.forEach((one, i) => {
            const around = samples.subarray(Math.max(0, from + (i - 1) * width), from + (i + 2) * width);
            expect(one).toBeLessThanOrEqual(highest(around) + 1 / 255);
          });
        },
      ),
    );
    expect(new PeakLevels(new Uint8Array()).highest(0, 1000)).toBe(0);
  });
});
