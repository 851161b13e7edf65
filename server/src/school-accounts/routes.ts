import { schoolSignIn } from '@kite-trail/core/contract/account';
import type { Request, Response } from 'express';
import { json } from '../http/body';
import { inTransaction } from '../database/transaction';
import { RequestProblem } from '../http/problem';
import { route, type Route } from '../http/route';
import { startSession } from '../http/sessions';
import { BegunSignIns } from './begun-sign-ins';
import { teacherBy } from './identities';
import { AccountsUnreachable, type SchoolAccounts } from './provider';

const COOKIE = 'kite-trail-sign-in';
const PATH = '/api/school-sign-in';

/**
 * Signing in by the school's accounts: the browser goes there and comes back. What was wrong then is told by the page on which one
 * signs in.
 */
export function schoolAccountRoutes(accounts: SchoolAccounts | null): Route[] {
  if (!accounts) return [];
  const begunSignIns = new BegunSignIns();
  return [
    route({
      method: 'post',
      path: '/school-sign-in',
      right: 'anyone',
      body: json(schoolSignIn),
      handle: async ({ body: { ticket }, request, response }) => {
        const back = `${request.protocol}://${request.get('host')}${PATH}/back`;
        const { address, begun } = await accounts.begin(back).catch(unreachable);
        const key = begunSignIns.keep({ begun, back, ticket });
        response.cookie(COOKIE, key, { httpOnly: true, sameSite: 'lax', secure: request.secure, path: PATH });
        return { address };
      },
    }),
    route({
      method: 'get',
      path: '/school-sign-in/back',
      right: 'anyone',
      handle: async ({ request, response, db }) => {
        const begun = begunSignIns.take(cookieOf(request));
        response.clearCookie(COOKIE, { path: PATH });
        if (!begun) return goOn(response, 'too-late');
        try {
          const came = new URL(begun.back);
          came.search = new URL(request.originalUrl, begun.back).search;
          const person = await accounts.finish(came, begun.begun).catch(unreachable);
          const teacher = await inTransaction(db, (trx) => teacherBy(trx, person, begun.ticket));
          await startSession(request, teacher.id);
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

/** The one cookie that is asked for here. */
function cookieOf(request: Request): string {
  const all = (request.get('cookie') ?? '').split(';').map((one) => one.trim());
  return all.find((one) => one.startsWith(`${COOKIE}=`))?.slice(COOKIE.length + 1) ?? '';
}
