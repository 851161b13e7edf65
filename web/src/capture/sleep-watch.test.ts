import { describe, expect, it } from 'vitest';
import { SleepWatch } from './sleep-watch';

const HZ = 48_000;

/** Ticks every 100 ms while sound comes in. */
function running(watch: SleepWatch, fromMs: number, seconds: number): ReturnType<SleepWatch['tick']>[] {
  return Array.from({ length: seconds * 10 }, (_, i) =>
    tick(watch, fromMs + i * 100, ((fromMs + i * 100) / 1000) * HZ),
  );
}

/** Both clocks say the same, unless one of them was set. */
const tick = (watch: SleepWatch, wallMs: number, samples: number, steadyMs = wallMs) =>
  watch.tick({ wallMs, steadyMs, samples });

describe('a device that records', () => {
  it('is not taken to sleep while all goes well, nor when its timers come late', () => {
    const watch = new SleepWatch();
    expect(running(watch, 0, 5).every((one) => one === null)).toBe(true);
    expect(tick(watch, 65_000, 65 * HZ)).toBeNull();
  });

  it('has slept when the clock of the day jumps and nothing was captured meanwhile', () => {
    const watch = new SleepWatch();
    running(watch, 0, 2);
    expect(tick(watch, 602_000, 2 * HZ)).toBeNull();
    expect(tick(watch, 602_600, 2.6 * HZ)).toEqual({ kind: 'slept', forMs: expect.closeTo(600_000, -3) });
  });

  it('has not slept when its page was busy: what came in meanwhile is told after the timers that were due', () => {
    const watch = new SleepWatch();
    running(watch, 0, 2);
    expect(tick(watch, 7000, 2 * HZ)).toBeNull();
    expect(running(watch, 7010, 5).every((one) => one === null)).toBe(true);
    // What looked wrong then is no reason later.
    expect(tick(watch, 17_000, 12 * HZ)).toBeNull();
    expect(tick(watch, 17_100, 17.1 * HZ)).toBeNull();
  });

  it('has lost its sound when none comes for three seconds', () => {
    const watch = new SleepWatch();
    running(watch, 0, 2);
    const later = Array.from({ length: 45 }, (_, i) => tick(watch, 2000 + i * 100, 2 * HZ));
    expect(later.slice(0, 25).every((one) => one === null)).toBe(true);
    expect(later.at(-1)).toEqual({ kind: 'no-sound' });
  });

  it('has not slept when somebody sets the clock of the day: its sound goes on', () => {
    for (const setByMs of [3_600_000, -3_600_000]) {
      const watch = new SleepWatch();
      running(watch, 0, 2);
      const later = Array.from({ length: 60 }, (_, i) => {
        const steadyMs = 2000 + i * 100;
        return tick(watch, steadyMs + setByMs, (steadyMs / 1000) * HZ, steadyMs);
      });
      expect(later.every((one) => one === null)).toBe(true);
    }
  });

  it('has slept also where its steady clock stood still meanwhile', () => {
    const watch = new SleepWatch();
    running(watch, 0, 2);
    expect(tick(watch, 602_000, 2 * HZ, 2400)).toBeNull();
    const slept = tick(watch, 602_600, 2.6 * HZ, 3000);
    expect(slept).toEqual({ kind: 'slept', forMs: expect.closeTo(600_000, -3) });
  });

  it('is not watched while it is paused', () => {
    const watch = new SleepWatch();
    running(watch, 0, 2);
    watch.rest();
    expect(tick(watch, 900_000, 2 * HZ)).toBeNull();
    expect(tick(watch, 900_100, 2.1 * HZ)).toBeNull();
  });
});
