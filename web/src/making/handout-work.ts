import { proxy } from 'comlink';
import type { Handout } from '../workers/handout/handout';
import type { HandoutWorker } from '../workers/handout/handout.worker';
import PdfWriter from '../workers/handout/handout.worker?worker';
import { withWorker } from '../workers/with-worker';
import { newMakingId, type Work } from './makings';

/** A hand-out, made beside whatever else is. */
export const handoutWork = (of: string, name: string, handout: Handout): Work => ({
  id: newMakingId(),
  lesson: handout.lesson,
  of,
  name,
  isLong: false,
  make: (told) =>
    withWorker<HandoutWorker, Blob>(new PdfWriter(), (writer) => writer.make(handout, proxy(told.onDone)), told),
});
