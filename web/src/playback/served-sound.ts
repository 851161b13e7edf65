import { HIGHEST_PEAK_DBTP, hottestOf, type Mastering } from '@kite-trail/core/sound/mastering';
import type { PeakReport } from '../workers/peak.worker';
import PeakWorker from '../workers/peak.worker?worker';
import type { SoundTask } from '../workers/sound-file';
import type { SoundReport } from '../workers/sound.worker';
import SoundWorker from '../workers/sound.worker?worker';

/** A programme with where its voices are, and how it is mastered under a ceiling; the usual one where none is given. */
export interface ServedSound extends Omit<SoundTask, 'mastering'> {
  masteringUnder(ceilingDb?: number): Mastering;
}

/** Meters differ by as much. */
const MARGIN_DB = 0.3;
/** Where nothing here can decode what is encoded, peaks are kept so low that nothing was seen to lift them above −1 dBTP. */
const UNCHECKED_CEILING_DBTP = -7;
const ROUNDS = 3;

/** The ceiling that is lower by what a peak, once it is encoded and decoded, is too high. */
const lowered = (ceilingDb: number, peakDb: number): number => ceilingDb - (peakDb - HIGHEST_PEAK_DBTP + MARGIN_DB);

/**
 * How a programme is mastered for those who get it encoded: where it is loudest it is encoded and decoded for trial, and the
 * ceiling lowered by what that adds to its peaks.
 * @throws DOMException `AbortError` when it is given up
 */
export async function servedMastering(
  { programme, urls, masteringUnder }: ServedSound,
  signal?: AbortSignal,
): Promise<Mastering> {
  let mastering = masteringUnder();
  for (let round = 0; round < ROUNDS && mastering.ceilingDb !== null && mastering.hottest.length > 0; round++) {
    const peakDb = await encodedPeak({ programme: hottestOf(programme, mastering), urls, mastering }, signal);
    if (peakDb === null) return masteringUnder(UNCHECKED_CEILING_DBTP);
    if (peakDb <= HIGHEST_PEAK_DBTP - MARGIN_DB) break;
    mastering = masteringUnder(lowered(mastering.ceilingDb, peakDb));
  }
  return mastering;
}

/** The file of a programme's sound for a link, no peak of which passes −1 dBTP: all of it is decoded and measured. */
export async function linkSound(served: ServedSound, onProgress: (done: number) => void): Promise<Blob> {
  const { programme, urls, masteringUnder } = served;
  let mastering = await servedMastering(served);
  for (let round = 0; ; round++) {
    const { file, peakDb } = await soundFile({ programme, urls, mastering }, onProgress);
    const isHigh = peakDb !== null && peakDb > HIGHEST_PEAK_DBTP;
    if (!isHigh || mastering.ceilingDb === null || round === ROUNDS) return file;
    mastering = masteringUnder(lowered(mastering.ceilingDb, peakDb));
  }
}

function encodedPeak(task: SoundTask, signal?: AbortSignal): Promise<number | null> {
  const worker = new PeakWorker();
  return new Promise<number | null>((resolve, reject) => {
    signal?.throwIfAborted();
    signal?.addEventListener('abort', () => reject(signal.reason as Error), { once: true });
    worker.onerror = (event) => reject(new Error(event.message));
    worker.onmessage = ({ data }: MessageEvent<PeakReport>) =>
      'failed' in data ? reject(new Error(data.failed)) : resolve(data.peakDb);
    worker.postMessage(task);
  }).finally(() => worker.terminate());
}

function soundFile(
  task: SoundTask,
  onProgress: (done: number) => void,
): Promise<{ file: Blob; peakDb: number | null }> {
  const worker = new SoundWorker();
  return new Promise<{ file: Blob; peakDb: number | null }>((resolve, reject) => {
    worker.onerror = (event) => reject(new Error(event.message));
    worker.onmessage = ({ data }: MessageEvent<SoundReport>) => {
      if (data.kind === 'progress') onProgress(data.done);
      else if (data.kind === 'file') resolve(data);
      else reject(new Error(data.message));
    };
    worker.postMessage(task);
  }).finally(() => worker.terminate());
}
