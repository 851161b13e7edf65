import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Request, Response } from 'express';

const KEEP_ALIVE_MS = 25_000;

/** Tells the windows that have a lesson open when it changes, as server-sent events (WHATWG HTML, section 9.2). */
export class LessonNews {
  private readonly listeners = new Map<LessonId, Set<Response>>();

  /** Keeps a response open and tells it whatever happens to the lesson from now on. */
  listen(lesson: LessonId, response: Response): void {
    response.set({
      'Content-Type': 'text/event-stream',
      // `no-transform` keeps the news from waiting in a compressor.
      'Cache-Control': 'no-cache, no-transform',
      'X-Accel-Buffering': 'no',
    });
    response.flushHeaders();
    const present = this.listeners.get(lesson) ?? new Set();
    this.listeners.set(lesson, present.add(response));
    const alive = setInterval(() => response.write(': alive\n\n'), KEEP_ALIVE_MS);
    response.on('close', () => {
      clearInterval(alive);
      present.delete(response);
      if (present.size === 0 && this.listeners.get(lesson) === present) this.listeners.delete(lesson);
    });
  }

  /** Tells of a change; the window that made it says which one it is in a header, and knows already. */
  tell(lesson: LessonId, request: Request): void {
    const window = request.get('x-window') ?? '';
    for (const response of this.listeners.get(lesson) ?? []) {
      response.write(`data: ${JSON.stringify({ window })}\n\n`);
    }
  }
}
