import { describe, expect, it } from 'vitest';
import type { TakeId } from '../lesson/ids';
import { CLOCK_HZ } from '../trail/clock';
import { quickened, silenced, whole } from '../trail/edit';
import { PeakLevels, SAMPLES_PER_PEAK } from './peaks';
import { ribbonOf } from './ribbon';

const take = 'spoken-0001' as TakeId;
const SECONDS = 60;
const LENGTH = SECONDS * CLOCK_HZ;
/** A minute that is silent but for its second ten seconds. */
const peaks = new Uint8Array(LENGTH / SAMPLES_PER_PEAK).map((_, n) => {
  const second = (n * SAMPLES_PER_PEAK) / CLOCK_HZ;
  return second >= 10 && second < 20 ? 64 : 0;
});
const heard = new Map([[take, new PeakLevels(peaks)]]);
const programme = [whole({ id: take, lengthSamples: LENGTH })];
const all = { fromSamples: 0, toSamples: LENGTH };

describe('the ribbon of a voice', () => {
  it('is as wide as the voice is loud, where it is', () => {
    expect([...ribbonOf(programme, heard, all, 6)].map((one) => one.toFixed(2))).toEqual([
      '0.00',
      '0.50',
      '0.00',
      '0.00',
      '0.00',
      '0.00',
    ]);
    const close = ribbonOf(programme, heard, { fromSamples: 9 * CLOCK_HZ, toSamples: 11 * CLOCK_HZ }, 20);
    expect([close[8] < 0.01, close[11] > 0.49]).toEqual([true, true]);
  });

  it('is nothing where nobody is heard: silenced, quickened, or not known yet', () => {
    const stretch = { fromSamples: 10 * CLOCK_HZ, toSamples: 20 * CLOCK_HZ };
    for (const edited of [silenced(programme, stretch), quickened(programme, stretch, 4)]) {
      expect(Math.max(...ribbonOf(edited, heard, all, 60))).toBe(0);
    }
    expect(Math.max(...ribbonOf(programme, new Map(), all, 60))).toBe(0);
    expect(ribbonOf([], heard, { fromSamples: 0, toSamples: 0 }, 3)).toEqual(new Float32Array(3));
  });
});
