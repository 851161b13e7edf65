import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Request, Response } from 'express';
import { keepAliveEvents, openEvents, writeEvent } from '../http/events';

/** Tells the windows that have a lesson open when it changes, as server-sent events (WHATWG HTML, section 9.2). */
export class LessonNews {
  /** A window no longer listens. */
  onGone: (lesson: LessonId, window: string) => void = () => {};
  private readonly listeners = new Map<LessonId, Map<Response, string>>();

  /**
   * Keeps a window's response open and tells it whatever happens to the lesson from now on, and who records it.
   * @param isStillIn whether its teacher is still signed in there: else it is told nothing more
   */
  listen(
    lesson: LessonId,
    window: string,
    response: Response,
    holder: string | null,
    isStillIn: () => Promise<boolean>,
  ): void {
    openEvents(response);
    const present = this.listeners.get(lesson) ?? new Map<Response, string>();
    this.listeners.set(lesson, present.set(response, window));
    writeEvent(response, { holder });
    keepAliveEvents(response, isStillIn, () => response.end());
    response.on('close', () => {
      present.delete(response);
      if (present.size === 0 && this.listeners.get(lesson) === present) this.listeners.delete(lesson);
      this.onGone(lesson, window);
    });
  }

  isHeardBy(lesson: LessonId, window: string): boolean {
    return [...(this.listeners.get(lesson)?.values() ?? [])].includes(window);
  }

  /** Tells of a change; the window that made it says which one it is in a header, and knows already. */
  tell(lesson: LessonId, request: Request): void {
    this.send(lesson, { window: windowOf(request) });
  }

  /** Tells which window records the lesson from now on. */
  tellHolder(lesson: LessonId, holder: string | null): void {
    this.send(lesson, { holder });
  }

  private send(lesson: LessonId, news: object): void {
    for (const response of this.listeners.get(lesson)?.keys() ?? []) writeEvent(response, news);
  }
}

/** Which window asks: it says so in a header, or in the address where it can send none. */
export const windowOf = (request: Request): string => String(request.get('x-window') ?? request.query.window ?? '');
