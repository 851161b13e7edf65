import { schoolSignIn } from '@kite-trail/core/contract/account';
import type { Request, Response } from 'express';
import { json } from '../http/body';
import { inTransaction } from '../database/transaction';
import { RequestProblem } from '../http/problem';
import { route, type Route } from '../http/route';
import { startSession } from '../http/sessions';
import { keepBegun, takeBegun } from './begun-sign-in';
import { teacherBy } from './identities';
import { AccountsUnreachable, type SchoolAccounts } from './provider';

const BACK = '/api/school-sign-in/back';

/**
 * Signing in by the school's accounts: the browser goes there and comes back. What was wrong then is told by the page on which one
 * signs in.
 */
export function schoolAccountRoutes(accounts: SchoolAccounts | null): Route[] {
  if (!accounts) return [];
  return [
    route({
      method: 'post',
      path: '/school-sign-in',
      right: 'anyone',
      body: json(schoolSignIn),
      handle: async ({ body: { ticket }, request, response }) => {
        const { address, begun } = await accounts.begin(new URL(BACK, originOf(request)).href).catch(unreachable);
        keepBegun(request, response, { begun, ticket });
        return { address };
      },
    }),
    route({
      method: 'get',
      path: '/school-sign-in/back',
      right: 'anyone',
      handle: async ({ request, response, db }) => {
        const began = takeBegun(request, response);
        if (!began) return goOn(response, 'too-late');
        try {
          const came = new URL(request.originalUrl, originOf(request));
          const person = await accounts.finish(came, began.begun).catch(unreachable);
          const teacher = await inTransaction(db, (trx) => teacherBy(trx, person, began.ticket));
          await startSession(request, { teacherId: teacher.id });
          request.noteSecurity('signed in', { teacher: teacher.id, by: 'the school’s accounts' });
          goOn(response);
        } catch (error) {
          const code = error instanceof RequestProblem ? error.code : 'refused';
          request.noteSecurity('sign-in refused', { by: 'the school’s accounts', code });
          goOn(response, code);
        }
      },
    }),
  ];
}

/** To the lessons, or to the page on which one signs in, which says what was wrong. */
const goOn = (response: Response, refused?: string): void =>
  response.redirect(303, refused === undefined ? '/' : `/sign-in?refused=${refused}`);

function unreachable(error: unknown): never {
  if (!(error instanceof AccountsUnreachable)) throw error;
  throw new RequestProblem(503, 'unreachable', `${error.message} Sign in with your password, or try again later.`);
}

/** Where the browser reaches this server. */
const originOf = ({ protocol, host }: Request): string => `${protocol}://${host}`;
