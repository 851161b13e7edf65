import type { LessonId } from '@kite-trail/core/lesson/ids';
import { api } from '../server/api';
import { Refused } from '../server/call';

const ELSEWHERE =
  'This lesson is being recorded in another window. You can look on here, and record when that one has finished.';

/**
 * Keeps other windows and devices from recording a lesson: those of this browser by a lock that ends with the window, all
 * others by the server's word. Without a network the lock alone must do.
 * @returns lets them record again
 * @throws Error when another one is recording it
 */
export async function claimRecording(lesson: LessonId): Promise<() => void> {
  const letGo = await lock(`kite-trail-recording-${lesson}`);
  if (!letGo) throw new Error(ELSEWHERE);
  try {
    await api.claimRecording(lesson);
  } catch (error) {
    if (error instanceof Refused && error.code === 'being-recorded') {
      letGo();
      throw error;
    }
  }
  return () => {
    letGo();
    void api.releaseRecording(lesson).catch(() => {});
  };
}

/** Holds a lock of this browser until the function it gives is called; `null` where another window has it. */
function lock(name: string): Promise<(() => void) | null> {
  return new Promise((resolve) => {
    void navigator.locks.request(name, { ifAvailable: true }, (held) =>
      held ? new Promise<void>((letGo) => resolve(letGo)) : resolve(null),
    );
  });
}
