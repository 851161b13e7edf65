import { proxy, wrap } from 'comlink';
import type { Handout, HandoutWorker } from '../workers/handout/handout.worker';
import PdfWriter from '../workers/handout/handout.worker?worker';
import { aborted } from '../workers/told';
import { newMakingId, type Work } from './makings';

/** A hand-out, made beside whatever else is. */
export const handoutWork = (of: string, name: string, handout: Handout): Work => ({
  id: newMakingId(),
  lesson: handout.lesson,
  of,
  name,
  isLong: false,
  async make({ signal, onDone }) {
    const worker = new PdfWriter();
    const broken = new Promise<never>((_, reject) => {
      worker.onerror = (event) => reject(new Error(event.message));
    });
    try {
      return await Promise.race([wrap<HandoutWorker>(worker).make(handout, proxy(onDone)), broken, aborted(signal)]);
    } finally {
      worker.terminate();
    }
  },
});
