import { changeColleague as changeBody, newTicket } from '@kite-trail/core/contract/account';
import { json } from '../http/body';
import { notFound } from '../http/problem';
import { route, type Route } from '../http/route';
import { changeColleague, listColleagues } from './keepers';
import { makeTicket } from './tickets';

/** What whoever keeps the school does for its teachers. */
export const keeperRoutes = (): Route[] => [
  route({
    method: 'get',
    path: '/teachers',
    right: 'a keeper of the school',
    handle: ({ db }) => listColleagues(db),
  }),
  route({
    method: 'put',
    path: '/teachers/:teacher',
    right: 'a keeper of the teacher’s school',
    body: json(changeBody),
    handle: async ({ teacher, colleague, body, request, db }) => {
      await changeColleague(db, colleague, body);
      request.noteSecurity('teacher changed', { teacher: colleague.id, by: teacher.id, ...body });
      return listColleagues(db);
    },
  }),
  route({
    method: 'post',
    path: '/tickets',
    right: 'a keeper of the school',
    body: json(newTicket),
    isSecret: true,
    handle: async ({ teacher, body, request, db }) => {
      const known = body.teacher === null || (await db('teachers').where({ id: body.teacher }).first('id'));
      if (!known) throw notFound('teacher');
      request.noteSecurity('ticket made', { teacher: body.teacher, by: teacher.id });
      return makeTicket(db, body.teacher);
    },
  }),
];
