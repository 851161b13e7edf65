import { wrap, type Remote } from 'comlink';
import type { InkMl } from './inkml.worker';
import InkMlWorker from './inkml.worker?worker';

/** Does something with InkML in a worker of its own, which is let go afterwards: it is seldom needed. @throws Error with a message for the teacher */
export async function withInkMl<Result>(work: (inkMl: Remote<InkMl>) => Promise<Result>): Promise<Result> {
  const worker = new InkMlWorker();
  const failed = new Promise<never>((_, reject) => {
    worker.onerror = () => reject(new Error('This cannot be done just now. Try again in a moment.'));
  });
  return Promise.race([work(wrap<InkMl>(worker)), failed]).finally(() => worker.terminate());
}
