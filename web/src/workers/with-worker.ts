import { wrap, type Remote } from 'comlink';
import { aborted, type Told } from './told';

/** Work that can be held up. */
interface Holdable {
  hold(isHeld: boolean): void;
}

/**
 * Does something with a worker, which is let go afterwards. One that is given a gate can be held up: its API has `hold`.
 * @throws DOMException `AbortError` when it is given up; Error with a message for the teacher where the worker fails
 */
export async function withWorker<Api, Result>(
  worker: Worker,
  use: (remote: Remote<Api>) => Promise<Result>,
  { signal, gate }: Pick<Told, 'signal' | 'gate'> = {},
): Promise<Result> {
  const remote = wrap<Api>(worker);
  const free = gate?.onHold((isHeld) => void (remote as unknown as Remote<Holdable>).hold(isHeld));
  const failed = new Promise<never>((_, reject) => {
    worker.onerror = ({ message }) =>
      reject(new Error(message || 'This cannot be done just now. Try again in a moment.'));
  });
  try {
    return await Promise.race([use(remote), failed, aborted(signal)]);
  } finally {
    free?.();
    worker.terminate();
  }
}
