import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ClockFit } from './clock-fit';
import { TakeClock } from './take-clock';

const BLOCK = 2048;

/** Deterministic scatter of ± 0.1 ms, as getOutputTimestamp was measured to have. */
const scatterMs = (n: number) => (((n * 7919) % 201) - 100) / 1000;

describe('the fit between two clocks', () => {
  it('evens out scatter: within 0.1 ms of the true line', () => {
    const fit = new ClockFit();
    for (let n = 0; n < 40; n++) fit.add(1000 + n * 250 + scatterMs(n), (n * 250) / 1000);
    expect(Math.abs(fit.contextSecondsAt(1000 + 39 * 250) * 1000 - 39 * 250)).toBeLessThan(0.1);
  });

  it('follows a sound card that runs 80 ppm fast, for an hour, within 5 ms', () => {
    const skew = 1 + 80e-6;
    const fit = new ClockFit();
    let worst = 0;
    for (let ms = 0; ms < 3_600_000; ms += 250) {
      fit.add(ms + scatterMs(ms / 250), (ms / 1000) * skew);
      if (ms > 2000) worst = Math.max(worst, Math.abs(fit.contextSecondsAt(ms + 120) - ((ms + 120) / 1000) * skew));
    }
    expect(worst * 1000).toBeLessThan(5);
  });
});

describe('a clock that jumps', () => {
  it('is followed within two readings, and a single slip is not', () => {
    const fit = new ClockFit();
    const at = (ms: number, lostSeconds: number) => ms / 1000 - lostSeconds;
    for (let ms = 0; ms < 5000; ms += 100) fit.add(ms, at(ms, 0));
    fit.add(5000, at(5000, 0.5));
    expect(fit.contextSecondsAt(5050)).toBeCloseTo(at(5050, 0), 3);
    fit.add(5100, at(5100, 0));
    fit.add(5200, at(5200, 0.06));
    fit.add(5300, at(5300, 0.06));
    expect(fit.contextSecondsAt(5350)).toBeCloseTo(at(5350, 0.06), 3);
  });
});

describe('a take’s clock', () => {
  const ready = () => {
    const clock = new TakeClock();
    clock.follow(0, 0);
    return clock;
  };

  it('counts samples without gap over pauses, and stands still in them', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 1, max: 20 }), fc.nat(100_000)), { maxLength: 8 }), (runs) => {
        const clock = ready();
        let frame = 0;
        let expected = 0;
        for (const [blocks, pausedFrames] of runs) {
          for (let n = 0; n < blocks; n++, frame += BLOCK) clock.count(frame, BLOCK);
          expected += blocks * BLOCK;
          expect(clock.takeSamples).toBe(expected);
          clock.pause();
          expect(clock.samplesAt(1e9)).toBe(expected);
          frame += pausedFrames;
        }
      }),
    );
  });

  it('maps pen times onto samples, never before the run going on', () => {
    const clock = ready();
    clock.count(48_000, BLOCK);
    clock.pause();
    clock.count(96_000, BLOCK);
    // 96,000 frames is 2 s: half a second later, the take stands at its first block and half a second.
    expect(clock.samplesAt(2500)).toBe(BLOCK + 24_000);
    expect(clock.samplesAt(1000)).toBe(BLOCK);
  });

  it('follows a shift that changes, and never goes back', () => {
    const clock = ready();
    clock.count(0, BLOCK);
    clock.follow(0.05, 0);
    expect(clock.samplesAt(1000)).toBe(50_400);
    clock.follow(0.02, 1000);
    expect([1000, 1010, 1030, 1100].map((ms) => clock.samplesAt(ms))).toEqual([50_400, 50_400, 50_400, 53_760]);
    clock.follow(0.06, 2000);
    expect(clock.samplesAt(2000)).toBe(98_880);
  });
});
