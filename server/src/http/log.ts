import type { Request, RequestHandler } from 'express';
import { nanoid } from 'nanoid';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';

declare module 'express-serve-static-core' {
  interface Request {
    /** Notes what whoever watches over the school's door wants to know. */
    noteSecurity(event: SecurityEvent, about?: object): void;
  }
}

export type SecurityEvent =
  | 'signed in'
  | 'sign-in refused'
  | 'signed out'
  | 'signed out elsewhere'
  | 'account changed'
  | 'account deleted'
  | 'password changed'
  | 'account change refused'
  | 'own data taken out'
  | 'ticket made'
  | 'ticket refused'
  | 'teacher joined'
  | 'teacher changed'
  | 'lessons handed over'
  | 'worked on with'
  | 'school set up'
  | 'set-up refused'
  | 'key refused'
  | 'key renewed'
  | 'student deleted'
  | 'too many tries'
  | 'forged request'
  | 'not theirs';

/** For a promise's `catch`: notes that somebody was refused. */
export const noted =
  (request: Request, event: SecurityEvent, about: object = {}) =>
  (error: unknown): never => {
    request.noteSecurity(event, about);
    throw error;
  };

/**
 * Logs say which route was called, how it was answered, and what went wrong. They hold no addresses of pages, for these hold
 * tokens; no cookies, no names, nothing anybody wrote. Security events go to a stream of their own, and tell of the same
 * request by its id, which the answer names, too.
 */
export function logRequests(log: Logger, security: Logger): RequestHandler {
  const logged = pinoHttp<Request>({
    logger: log,
    genReqId: (_request, response) => {
      const id = nanoid(12);
      response.setHeader('X-Request-Id', id);
      return id;
    },
    serializers: {
      req: ({ id, method }: { id: string; method: string }) => ({ id, method }),
      res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
      err: describeError,
    },
    wrapSerializers: true,
    customProps: (request) => ({ route: (request.route as { path?: string } | undefined)?.path }),
    // What went wrong is logged where it is answered.
    customLogLevel: () => 'debug',
  });
  return (request, response, next) => {
    request.noteSecurity = (event, about = {}) =>
      security.info({ event, request: request.id, address: request.ip, ...about });
    logged(request, response);
    next();
  };
}

/** What went wrong, and where. */
function describeError(error: { type: string; message: string; stack: string; code?: string }): object {
  const { type, message, code, stack } = error;
  const frames = stack.split('\n').filter((line) => /^\s+at /.test(line));
  return { type, code, message, frames };
}
