import type { Problem } from '@kite-trail/core/contract/watch';

/** A request that cannot be done, with a message a teacher or student can act on. */
export class RequestProblem extends Error {
  override readonly name = 'RequestProblem';

  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
  ) {
    super(message);
  }

  get answer(): Problem {
    return { code: this.code, message: this.message };
  }
}

export const notFound = (what: string) =>
  new RequestProblem(404, 'not-found', `This ${what} is not here, or is not yours.`);
export const signInFirst = () => new RequestProblem(401, 'sign-in', 'Sign in to go on. Nothing you made is lost.');
export const conflict = (code: string, message: string) => new RequestProblem(409, code, message);
export const badInput = (message: string) => new RequestProblem(400, 'bad-input', message);
