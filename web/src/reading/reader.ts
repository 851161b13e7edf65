import type { OwnLetter } from '@kite-trail/core/contract/pens';
import type { Polyline } from '@kite-trail/core/reading/point-cloud';
import type { Reading } from '@kite-trail/core/reading/reading';
import { wrap } from 'comlink';
import type { Reader } from '../workers/reading.worker';
import ReadingWorker from '../workers/reading.worker?worker';

/** Handwriting being read; `stop` leaves off at once. */
export interface ReadingWork {
  done: Promise<Reading>;
  stop(): void;
}

/** Reads handwriting in a worker of its own, which is let go afterwards: it holds many letters and is seldom needed. */
export function readInWorker(strokes: Polyline[], own: readonly OwnLetter[]): ReadingWork {
  const worker = new ReadingWorker();
  const stop = () => worker.terminate();
  const failed = new Promise<never>((_, reject) => {
    worker.onerror = () => reject(new Error('The writing could not be read just now. Try again in a moment.'));
  });
  const read = wrap<Reader>(worker).read(strokes, JSON.parse(JSON.stringify(own)) as OwnLetter[]);
  return { done: Promise.race([read, failed]).finally(stop), stop };
}
