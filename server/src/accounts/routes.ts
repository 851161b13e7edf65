import { credentials, firstTeacher } from '@kite-trail/core/contract/account';
import { keptPens } from '@kite-trail/core/contract/pens';
import type { Request } from 'express';
import { route, type Route } from '../http/route';
import { addFirstTeacher, describeSession, signIn } from './accounts';
import { keepPens, pensOf } from './pens';

export const accountRoutes = (): Route[] => [
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
    body: firstTeacher,
    handle: async ({ body, request, db }) => {
      const teacher = await addFirstTeacher(db, body);
      await startSession(request, teacher.id);
      return describeSession(db, teacher.id);
    },
  }),
  route({
    method: 'post',
    path: '/session',
    right: 'anyone',
    body: credentials,
    handle: async ({ body, request, db }) => {
      const teacher = await signIn(db, body.email, body.password);
      await startSession(request, teacher.id);
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
    body: keptPens,
    handle: ({ teacher, body, db }) => keepPens(db, teacher, body),
  }),
  route({
    method: 'delete',
    path: '/session',
    right: 'anyone',
    handle: ({ request }) =>
      new Promise<void>((resolve, reject) => request.session.destroy((error) => (error ? reject(error) : resolve()))),
  }),
];

/** A new session id at sign-in, so that one planted before is worth nothing. */
function startSession(request: Request, teacherId: string): Promise<void> {
  return new Promise((resolve, reject) =>
    request.session.regenerate((error) => {
      if (error) return reject(error);
      request.session.teacherId = teacherId;
      request.session.save((failed) => (failed ? reject(failed) : resolve()));
    }),
  );
}
