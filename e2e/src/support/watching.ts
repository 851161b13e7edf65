import { secondsToSamples } from '@kite-trail/core/trail/clock';
import type { Person } from './browser';

/** Where a student is, in seconds. */
export const secondsWatched = async (student: Person): Promise<number> =>
  Number(await student.valueOf('slider', 'Where to play')) / secondsToSamples(1);

/** A student drags the playhead to a moment. */
export const dragTo = (student: Person, seconds: number): Promise<void> =>
  student.page.$eval(
    'input[aria-label="Where to play"]',
    (bar, samples) => {
      (bar as HTMLInputElement).value = String(samples);
      bar.dispatchEvent(new Event('input', { bubbles: true }));
    },
    secondsToSamples(seconds),
  );
