import pRetry from 'p-retry';
import { mayPass } from './call';

const FIRST_WAIT_MS = 500;
const LONGEST_WAIT_MS = 4000;

/**
 * Does what needs the server, and tries again for as long as what is in its way may pass.
 * @param waits hears what is in the way, and `null` when nothing is any longer
 * @param isWanted whether anybody still waits for it
 * @throws what does not pass
 */
export async function persistently<Result>(
  work: () => Promise<Result>,
  waits: (why: string | null) => void,
  isWanted: () => boolean = () => true,
): Promise<Result> {
  try {
    return await pRetry(work, {
      retries: Infinity,
      minTimeout: FIRST_WAIT_MS,
      maxTimeout: LONGEST_WAIT_MS,
      shouldRetry: ({ error }) => mayPass(error) && isWanted(),
      onFailedAttempt: ({ error }) => waits(mayPass(error) ? error.message : null),
    });
  } finally {
    waits(null);
  }
}
