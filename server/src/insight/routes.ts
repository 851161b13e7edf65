import { lessonCounting, schoolCounting, visitReport } from '@kite-trail/core/contract/visit';
import { json } from '../http/body';
import { route, type Route } from '../http/route';
import { countLesson, countSchool, forgetCounts } from './insight';
import { isCounting, noteVisit } from './visits';

/** How lessons are watched, in sums alone. */
export function insightRoutes(): Route[] {
  return [
    route({
      method: 'post',
      path: '/watch/:token/publications/:publication/visits',
      right: 'the link’s publication, for its holder',
      body: json(visitReport),
      handle: ({ link, publication, body, db }) => noteVisit(db, link, publication, body),
    }),
    route({
      method: 'get',
      path: '/lessons/:lesson/insight',
      right: 'the lesson’s teacher',
      handle: ({ lesson, work }) => work.do('gatherInsight', lesson.teacher_id, { lesson: lesson.id }),
    }),
    route({
      method: 'put',
      path: '/lessons/:lesson/counting',
      right: 'the lesson’s teacher',
      body: json(lessonCounting),
      handle: ({ lesson, body, db }) => countLesson(db, lesson, body.isCounted),
    }),
    route({
      method: 'delete',
      path: '/lessons/:lesson/insight',
      right: 'the lesson’s teacher',
      handle: ({ lesson, db }) => forgetCounts(db, lesson),
    }),
    route({
      method: 'get',
      path: '/school/counting',
      right: 'a teacher',
      handle: async ({ db }) => ({ isCounting: await isCounting(db) }),
    }),
    route({
      method: 'put',
      path: '/school/counting',
      right: 'a keeper of the school',
      body: json(schoolCounting),
      handle: ({ body, db }) => countSchool(db, body.isCounting),
    }),
  ];
}
