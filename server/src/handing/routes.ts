import { handing } from '@kite-trail/core/contract/class';
import { json } from '../http/body';
import { route, type Route } from '../http/route';
import { windowOf, type LessonNews } from '../lessons/news';
import type { RecordingClaims } from '../takes/claims';
import { handOver, listOthers } from './hand-over';

/** Lessons that become a colleague's. */
export function handingRoutes(news: LessonNews, claims: RecordingClaims): Route[] {
  return [
    route({
      method: 'get',
      path: '/colleagues',
      right: 'a teacher',
      handle: ({ teacher, db }) => listOthers(db, teacher),
    }),
    route({
      method: 'post',
      path: '/handing',
      right: 'a teacher',
      body: json(handing),
      handle: async ({ teacher, body: { lessons, to }, request, db, afterwards }) => {
        const handed = await handOver(db, teacher, lessons, to);
        for (const lesson of handed) claims.refuseOthers(lesson, windowOf(request));
        request.noteSecurity('lessons handed over', { teacher: teacher.id, to });
        afterwards(() => handed.forEach((lesson) => news.tell(lesson, request)));
      },
    }),
  ];
}
