import {
  credentials,
  firstTeacher,
  joinSchool as joinBody,
  readTicket,
  resetPassword as resetBody,
  type Session,
} from '@kite-trail/core/contract/account';
import type { Request } from 'express';
import type { SessionData } from 'express-session';
import type { Knex } from 'knex';
import type { TeacherRow } from '../database/rows';
import { json, MOST_KEPT } from '../http/body';
import { inTransaction } from '../database/transaction';
import { largeJson } from '../http/large-json';
import { noted, type SecurityEvent } from '../http/log';
import { route, type Route } from '../http/route';
import { endSession, hashOf, startSession } from '../http/sessions';
import { addFirstTeacher, describeSession, signIn } from './accounts';
import type { SchoolAccounts } from '../school-accounts/provider';
import type { SetUpCode } from './set-up';
import { keepPens, pensOf } from './pens';
import { joinSchool, resetPassword, ticketHolder } from './tickets';

/** @param accounts the school's own, by which teachers may sign in, too */
export const accountRoutes = (setUp: SetUpCode, accounts: SchoolAccounts | null): Route[] => {
  const describe = (db: Knex, whose: Pick<SessionData, 'teacherId' | 'studentId'>) =>
    describeSession(db, whose, accounts?.name ?? null);
  const letIn = async (db: Knex, request: Request, { id }: TeacherRow, event: SecurityEvent): Promise<Session> => {
    await startSession(request, { teacherId: id });
    request.noteSecurity(event, { teacher: id });
    return describe(db, { teacherId: id });
  };
  return [
    route({
      method: 'get',
      path: '/session',
      right: 'anyone',
      handle: ({ request, db }) => describe(db, request.session),
    }),
    route({
      method: 'post',
      path: '/first-teacher',
      right: 'anyone',
      body: json(firstTeacher),
      handle: async ({ body, request, db }) => {
        const teacher = await addFirstTeacher(db, setUp, body).catch(noted(request, 'set-up refused'));
        return letIn(db, request, teacher, 'school set up');
      },
    }),
    route({
      method: 'post',
      path: '/session',
      right: 'anyone',
      body: json(credentials),
      handle: async ({ body, request, db }) => {
        // The account by its hash: tries at the same one can be told, but not whose it is.
        const account = hashOf(body.email).slice(0, 12);
        const teacher = await signIn(db, body.email, body.password).catch(
          noted(request, 'sign-in refused', { account }),
        );
        return letIn(db, request, teacher, 'signed in');
      },
    }),
    route({
      method: 'post',
      path: '/tickets/reading',
      right: 'anyone',
      body: json(readTicket),
      handle: async ({ body, request, db }) => {
        const holder = await ticketHolder(db, body.code).catch(noted(request, 'ticket refused'));
        return { name: holder?.name ?? null };
      },
    }),
    route({
      method: 'post',
      path: '/tickets/joining',
      right: 'anyone',
      body: json(joinBody),
      handle: async ({ body, request, db }) => {
        const teacher = await inTransaction(db, (trx) => joinSchool(trx, body)).catch(noted(request, 'ticket refused'));
        return letIn(db, request, teacher, 'teacher joined');
      },
    }),
    route({
      method: 'post',
      path: '/tickets/resetting',
      right: 'anyone',
      body: json(resetBody),
      handle: async ({ body, request, db }) => {
        const reset = inTransaction(db, (trx) => resetPassword(trx, body));
        const teacher = await reset.catch(noted(request, 'ticket refused'));
        return letIn(db, request, teacher, 'password changed');
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
      body: largeJson('keptPens', MOST_KEPT),
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
};
