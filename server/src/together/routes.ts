import { workingWith } from '@kite-trail/core/contract/together';
import { json } from '../http/body';
import { notFound } from '../http/problem';
import { route, type Route } from '../http/route';
import type { LessonNews } from '../lessons/news';
import { endWorking, togetherOn, workWith } from './together';

/** Who works on a lesson together. */
export function togetherRoutes(news: LessonNews): Route[] {
  return [
    route({
      method: 'get',
      path: '/lessons/:lesson/colleagues',
      right: 'the lesson’s teacher',
      handle: ({ lesson, db }) => togetherOn(db, lesson),
    }),
    route({
      method: 'put',
      path: '/lessons/:lesson/colleagues',
      right: 'the lesson’s owner',
      body: json(workingWith),
      handle: async ({ lesson, body: { colleagues }, request, db, afterwards }) => {
        await workWith(db, lesson, colleagues);
        request.noteSecurity('worked on with', { teacher: lesson.teacher_id, lesson: lesson.id, colleagues });
        afterwards(() => news.tell(lesson.id, request));
        return togetherOn(db, lesson);
      },
    }),
    route({
      method: 'delete',
      path: '/lessons/:lesson/colleagues/me',
      right: 'the lesson’s teacher',
      handle: async ({ teacher, lesson, db }) => {
        // Its owner hands it over, or puts it away.
        if (lesson.teacher_id === teacher.id) throw notFound('colleague');
        await endWorking(db, lesson.id, teacher.id);
      },
    }),
  ];
}
