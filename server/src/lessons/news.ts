import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Request, Response } from 'express';

const KEEP_ALIVE_MS = 25_000;

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
    response.set({
      'Content-Type': 'text/event-stream',
      // `no-transform` keeps the news from waiting in a compressor.
      'Cache-Control': 'no-cache, no-transform',
      'X-Accel-Buffering': 'no',
    });
    response.flushHeaders();
    const present = this.listeners.get(lesson) ?? new Map<Response, string>();
    this.listeners.set(lesson, present.set(response, window));
    response.write(event({ holder }));
    const alive = setInterval(() => void keepAlive(response, isStillIn), KEEP_ALIVE_MS);
    response.on('close', () => {
      clearInterval(alive);
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
    for (const response of this.listeners.get(lesson)?.keys() ?? []) response.write(event(news));
  }
}

async function keepAlive(response: Response, isStillIn: () => Promise<boolean>): Promise<void> {
  // A database that cannot be asked just now signs nobody out.
  if (await isStillIn().catch(() => true)) response.write(': alive\n\n');
  else response.end();
}

/** Which window asks: it says so in a header, or in the address where it can send none. */
export const windowOf = (request: Request): string => String(request.get('x-window') ?? request.query.window ?? '');

const event = (news: object) => `data: ${JSON.stringify(news)}\n\n`;
