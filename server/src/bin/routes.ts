import { binning } from '@kite-trail/core/contract/class';
import { json } from '../http/body';
import { route, type Route } from '../http/route';
import { windowOf, type LessonNews } from '../lessons/news';
import type { RecordingClaims } from '../takes/claims';
import { binLessons, dropBinned } from './bin';

export function binRoutes(news: LessonNews, claims: RecordingClaims): Route[] {
  return [
    route({
      method: 'post',
      path: '/binning',
      right: 'a teacher',
      body: json(binning),
      handle: async ({ teacher, body: { lessons, isBinned }, request, db, afterwards }) => {
        const moved = await binLessons(db, teacher.id, lessons, isBinned);
        afterwards(() => moved.forEach((lesson) => news.tell(lesson, request)));
      },
    }),
    route({
      method: 'delete',
      path: '/lessons/:lesson',
      right: 'the lesson’s owner',
      handle: async ({ lesson, request, db }) => {
        claims.refuseOthers(lesson.id, windowOf(request));
        await dropBinned(db, lesson);
      },
    }),
  ];
}
