import { FormatError } from '@kite-trail/core/formats/bytes';
import type { ErrorRequestHandler, RequestHandler } from 'express';
import { badInput, notFound, RequestProblem } from './problem';

export const answerUnknown: RequestHandler = () => {
  throw notFound('address');
};

/** Answers every failure with a code and a message; only what is our own fault goes to the log. */
export const answerProblems: ErrorRequestHandler = (error, request, response, next) => {
  if (response.headersSent) return next(error);
  const problem = problemOf(error);
  if (problem.status >= 500) request.log.error(error);
  response.status(problem.status).json(problem.answer);
};

/** PostgreSQL, appendix A. */
const POSTGRES = { diskFull: '53100', deadlock: '40P01', serialization: '40001', uniqueViolation: '23505' } as const;

/** What a failure is answered with. */
export function problemOf(error: unknown): RequestProblem {
  if (error instanceof RequestProblem) return error;
  if (error instanceof FormatError) return badInput(error.message);
  const { type, status, code } = error as { type?: string; status?: number; code?: string };
  if (type === 'entity.too.large') return new RequestProblem(413, 'too-large', 'This is larger than the server takes.');
  if (code === 'SQLITE_FULL' || code === POSTGRES.diskFull) {
    return new RequestProblem(507, 'disk-full', 'The school’s server is out of room; it tries again by itself.');
  }
  // Others did the same at the same moment: what was decided by is no longer so.
  if (code === POSTGRES.deadlock || code === POSTGRES.serialization || code === POSTGRES.uniqueViolation) {
    return new RequestProblem(503, 'busy', 'The school’s server is busy; it tries again by itself.');
  }
  if (status !== undefined && status < 500) {
    return new RequestProblem(status, 'bad-input', 'The server could not read this request.');
  }
  return new RequestProblem(500, 'server', 'Something went wrong on the server. Your work is kept; try again.');
}
