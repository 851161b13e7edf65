import { favouringListed } from '@kite-trail/core/contract/catalogue';
import { json } from '../http/body';
import { RequestProblem } from '../http/problem';
import { route, type Route } from '../http/route';
import { tellLesson } from '../lessons/describe';
import { takeOver } from '../lessons/duplicate';
import { writtenBytes } from '../lessons/lessons';
import { favourListed, mayBeCopied } from './catalogue';

/** What the school's teachers list for one another. */
export function catalogueRoutes(): Route[] {
  return [
    route({
      method: 'get',
      path: '/catalogue',
      right: 'a teacher',
      handle: ({ teacher, work }) => work.do('listCatalogue', `${teacher.id} lists`, { reader: teacher.id }),
    }),
    route({
      method: 'put',
      path: '/catalogue/:token/favourite',
      right: 'a teacher, of a listed lesson',
      body: json(favouringListed),
      handle: ({ teacher, lesson, body, db }) => favourListed(db, teacher.id, lesson, body.isFavourite),
    }),
    route({
      method: 'post',
      path: '/catalogue/:token/copy',
      right: 'a teacher, of a listed lesson',
      prepare: async ({ lesson, db, work }) =>
        work.do('gatherForOthers', lesson.teacher_id, { lesson: lesson.id }, await writtenBytes(db, lesson.id)),
      tells: tellLesson,
      handle: async ({ teacher, lesson, link, prepared, db }) => {
        if (!mayBeCopied(link)) {
          throw new RequestProblem(403, 'not-to-copy', 'Its teacher does not let others copy this lesson.');
        }
        return (await takeOver(db, teacher, lesson, prepared)).id;
      },
    }),
  ];
}
