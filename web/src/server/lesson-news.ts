import type { LessonId } from '@kite-trail/core/lesson/ids';
import { z } from 'zod';
import { newsUrl } from './api';
import { WINDOW_ID } from './call';

/** What the server tells: another window's change, or who records now. */
const lessonNews = z.union([z.object({ holder: z.string().nullable() }), z.object({ window: z.string() })]);

interface LessonListener {
  /** Whether it listens even out of sight. */
  isAlways(): boolean;
  /** Another window has changed the lesson. */
  onChange(): void;
  /** The window that records it from now on. */
  onHolder(window: string | null): void;
  /** The server is heard again after a break, in which anything may have happened. */
  onBack(): void;
}

/**
 * Hears when another window changes a lesson. Browsers keep few connections to one server, so a window out of sight listens
 * only while it has to.
 * @returns stops it
 */
export function listenToLesson(id: LessonId, listener: LessonListener): () => void {
  let news: EventSource | null = null;
  let isFirst = true;
  const connect = () => {
    news = new EventSource(newsUrl(id));
    news.onopen = () => {
      if (!isFirst) listener.onBack();
      isFirst = false;
    };
    news.onmessage = ({ data }) => {
      const told = lessonNews.parse(JSON.parse(data));
      if ('holder' in told) listener.onHolder(told.holder);
      else if (told.window !== WINDOW_ID) listener.onChange();
    };
  };
  const disconnect = () => {
    news?.close();
    news = null;
  };
  const seen = () => {
    if (document.visibilityState !== 'visible') return listener.isAlways() ? undefined : disconnect();
    if (!news) connect();
  };
  connect();
  document.addEventListener('visibilitychange', seen);
  return () => {
    document.removeEventListener('visibilitychange', seen);
    disconnect();
  };
}
