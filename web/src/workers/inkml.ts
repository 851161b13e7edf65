import type { Remote } from 'comlink';
import type { InkMl } from './inkml.worker';
import InkMlWorker from './inkml.worker?worker';
import { withWorker } from './with-worker';

/** Does something with InkML in a worker of its own: it is seldom needed. @throws Error with a message for the teacher */
export const withInkMl = <Result>(work: (inkMl: Remote<InkMl>) => Promise<Result>): Promise<Result> =>
  withWorker<InkMl, Result>(new InkMlWorker(), work);
