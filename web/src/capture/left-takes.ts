import type { LessonId } from '@kite-trail/core/lesson/ids';
import { Journal } from './journal';
import { takeLock } from './uploader';

/**
 * The lessons of which this device still holds recordings that no window is sending: they broke off, or their window was
 * closed before the server had them. They are handed over when the lesson is opened.
 */
export async function lessonsWithLeftTakes(): Promise<LessonId[]> {
  if (!window.isSecureContext || !(await Journal.exists())) return [];
  const journal = await Journal.open();
  const left = new Set<LessonId>();
  for (const take of await journal.takes()) {
    const isFree = await navigator.locks.request(takeLock(take.id), { ifAvailable: true }, (lock) => lock !== null);
    if (isFree) left.add(take.lesson);
  }
  return [...left];
}
