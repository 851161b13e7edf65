import type { Gate } from './gate';

/** What long work is told, and tells. */
export interface Told {
  /** It is given up. */
  signal?: AbortSignal;
  /** It is held up. */
  gate?: Gate;
  /** Hears how much is done, from 0 to 1. */
  onDone?: (done: number) => void;
}

/** Never settles, but fails when work is given up. */
export const aborted = (signal?: AbortSignal): Promise<never> =>
  new Promise((_, reject) => {
    signal?.throwIfAborted();
    signal?.addEventListener('abort', () => reject(signal.reason as Error), { once: true });
  });
