import { credentials, firstTeacher } from '@kite-trail/core/contract/account';
import { keptPens } from '@kite-trail/core/contract/pens';
import { json, MOST_KEPT } from '../http/body';
import { route, type Route } from '../http/route';
import { endSession, hashOf, startSession } from '../http/sessions';
import { addFirstTeacher, describeSession, signIn } from './accounts';
import type { SetUpCode } from './set-up';
import { keepPens, pensOf } from './pens';

export const accountRoutes = (setUp: SetUpCode): Route[] => [
  route({
    method: 'get',
    path: '/session',
    right: 'anyone',
    handle: ({ request, db }) => describeSession(db, request.session.teacherId),
  }),
  route({
    method: 'post',
    path: '/first-teacher',
    right: 'anyone',
    body: json(firstTeacher),
    handle: async ({ body, request, db }) => {
      const teacher = await addFirstTeacher(db, setUp, body).catch((error: unknown) => {
        request.noteSecurity('set-up refused');
        throw error;
      });
      request.noteSecurity('school set up', { teacher: teacher.id });
      await startSession(request, teacher.id);
      return describeSession(db, teacher.id);
    },
  }),
  route({
    method: 'post',
    path: '/session',
    right: 'anyone',
    body: json(credentials),
    handle: async ({ body, request, db }) => {
      const teacher = await signIn(db, body.email, body.password).catch((error: unknown) => {
        // The account by its hash: tries at the same one can be told, but not whose it is.
        request.noteSecurity('sign-in refused', { account: hashOf(body.email).slice(0, 12) });
        throw error;
      });
      await startSession(request, teacher.id);
      request.noteSecurity('signed in', { teacher: teacher.id });
      return describeSession(db, teacher.id);
    },
  }),
  route({
    method: 'get',
    path: '/pens',
    right: 'a teacher',
    handle: async ({ teacher }) => pensOf(teacher),
  }),
  route({
    method: 'put',
    path: '/pens',
    right: 'a teacher',
    body: json(keptPens, MOST_KEPT),
    handle: ({ teacher, body, db }) => keepPens(db, teacher, body),
  }),
  route({
    method: 'delete',
    path: '/session',
    right: 'anyone',
    handle: async ({ request }) => {
      request.noteSecurity('signed out', { teacher: request.session.teacherId });
      await endSession(request);
    },
  }),
];
