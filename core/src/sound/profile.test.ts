import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { listenedTo, wavering } from '../testing/heard-voices';
import { CLOCK_HZ } from '../trail/clock';
import { PeakLevels, SAMPLES_PER_PEAK } from './peaks';
import { heardSamples, joinHeard, NOTHING_HEARD, ProfileGatherer, profileOf, unheard } from './profile';

const MINUTE = 60 * CLOCK_HZ;
const DAMPED = 1e-6;

describe('a voice that is listened to', () => {
  const sound = wavering(170).map((sample, i) => sample + 0.1 + 0.05 * Math.sin(i / 300));
  const whole = listenedTo(sound);

  function expectAlike(found: typeof whole, expected: typeof whole): void {
    expect(found.peaks).toEqual(expected.peaks);
    expect(profileOf(found).speech).toEqual(profileOf(expected).speech);
    expect(found.energies).toHaveLength(expected.energies.length);
    const apart = found.energies.reduce((most, one, i) => Math.max(most, Math.abs(one - expected.energies[i])), 0);
    // The filters of loudness have settled all but this far before a part.
    expect(apart).toBeLessThan(DAMPED);
    expect(found.noise).toEqual(expected.noise);
  }

  it('is known alike in however many parts it is listened to', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: sound.length }), fc.integer({ min: 1, max: 4 }), (length, most) => {
        const take = sound.subarray(0, length);
        const parts = unheard(NOTHING_HEARD, length, most);
        expect(parts.length).toBeLessThanOrEqual(most);
        const found = parts.map(({ fromSamples, toSamples }) => listenedTo(take, fromSamples, toSamples));
        expectAlike(joinHeard(found), listenedTo(take));
      }),
      { numRuns: 5 },
    );
  });

  it('tells each minute once, when it is over, and then the rest', () => {
    const gatherer = new ProfileGatherer();
    const told = [];
    for (let at = 0; at < sound.length; at += 128 * 375) {
      gatherer.add(sound.subarray(at, at + 128 * 375));
      for (const minute of gatherer.takeMinutes()) told.push({ bySamples: at + 128 * 375, minute });
    }
    expect(told.map(({ bySamples }) => bySamples)).toEqual([MINUTE, 2 * MINUTE]);
    expect(told.map(({ minute }) => heardSamples(minute))).toEqual([MINUTE, MINUTE]);
    expect(joinHeard([...told.map(({ minute }) => minute), gatherer.finish()])).toEqual(whole);
  });

  it('is known alike when it broke off, and only the rest is listened to', () => {
    const gatherer = new ProfileGatherer();
    gatherer.add(sound.subarray(0, 2 * MINUTE + 7));
    const before = joinHeard(gatherer.takeMinutes());
    const rest = unheard(before, sound.length, 4);
    expect(rest).toEqual([{ fromSamples: 2 * MINUTE, toSamples: Infinity }]);
    expectAlike(joinHeard([before, listenedTo(sound, rest[0].fromSamples)]), whole);
    expect(unheard(whole, sound.length, 4)).toEqual([]);
  });

  it('may go on longer than is known, or be a whole number of minutes long', () => {
    const minutes = (count: number) => ({
      ...NOTHING_HEARD,
      peaks: new Uint8Array((count * MINUTE) / SAMPLES_PER_PEAK),
    });
    expect(unheard(NOTHING_HEARD, 3.5 * MINUTE, 2)).toEqual([
      { fromSamples: 0, toSamples: 2 * MINUTE },
      { fromSamples: 2 * MINUTE, toSamples: Infinity },
    ]);
    expect(unheard(minutes(1), 4 * MINUTE, 4).map(({ fromSamples }) => fromSamples / MINUTE)).toEqual([1, 2, 3]);
    expect(unheard(NOTHING_HEARD, 0, 4)).toEqual([{ fromSamples: 0, toSamples: Infinity }]);
    expect(unheard(minutes(2), 2 * MINUTE, 4)).toEqual([]);
  });

  it('is held in no more than its peaks, energies and noise, which is told as well of much as of little', () => {
    const minute = sound.subarray(0, MINUTE);
    const gatherer = new ProfileGatherer();
    for (let n = 0; n < 10; n++) gatherer.add(minute);
    const [once, tenTimes] = [listenedTo(minute), gatherer.finish()];
    expect(tenTimes.peaks).toHaveLength(10 * once.peaks.length);
    expect(tenTimes.energies).toHaveLength(10 * once.energies.length);
    expect(tenTimes.noise).toHaveLength(10);
    const levelDb = (noise: Float32Array) => 10 * Math.log10(noise.reduce((sum, one) => sum + one, 0));
    expect(Math.abs(levelDb(profileOf(tenTimes).noise) - levelDb(profileOf(once).noise))).toBeLessThan(0.5);
  });
});

describe('peaks of any zoom', () => {
  it('miss no sound between columns that follow one another, and none is higher than the sound around it', () => {
    const samples = wavering(6);
    const { peaks } = listenedTo(samples);
    const levels = new PeakLevels(peaks);
    const highest = (of: Float32Array) => of.reduce((most, one) => Math.max(most, Math.abs(one)), 0);
    const columns = fc.integer({ min: 2, max: 9 });
    fc.assert(
      fc.property(
        fc.nat(CLOCK_HZ),
        columns,
        fc.integer({ min: SAMPLES_PER_PEAK, max: CLOCK_HZ / 2 }),
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
