import { EventEmitter } from 'node:events';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Response } from 'express';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { LessonNews } from './news';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

/** A response that is listened to. */
function listener() {
  const said: string[] = [];
  const response = Object.assign(new EventEmitter(), {
    set: () => {},
    flushHeaders: () => {},
    write: (text: string) => said.push(text),
    end: () => response.emit('close'),
  });
  return { said, response: response as unknown as Response };
}

it('tells of a lesson as long as its teacher is signed in, also while the database cannot be asked', async () => {
  const news = new LessonNews();
  const gone = vi.fn();
  news.onGone = gone;
  const { said, response } = listener();
  const isStillIn = vi.fn(async () => true);
  news.listen('lesson-one' as LessonId, 'window-one', response, null, isStillIn);
  await vi.advanceTimersByTimeAsync(30_000);
  isStillIn.mockRejectedValueOnce(new Error('The database is away.'));
  await vi.advanceTimersByTimeAsync(30_000);
  expect(gone).not.toHaveBeenCalled();
  news.tellHolder('lesson-one' as LessonId, 'window-two');
  expect(said.at(-1)).toContain('window-two');

  // Somebody signs this device out from another one.
  isStillIn.mockResolvedValue(false);
  await vi.advanceTimersByTimeAsync(30_000);
  expect(gone).toHaveBeenCalledWith('lesson-one', 'window-one');
  news.tellHolder('lesson-one' as LessonId, 'window-three');
  expect(said.at(-1)).not.toContain('window-three');
});
