import express, { type Request, type RequestHandler } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import { RequestProblem } from './problem';

const QUARTER_HOUR_MS = 15 * 60 * 1000;

/** How many mistakes are forgiven in a quarter of an hour. */
export interface Forgiven {
  /** For one account, from one address. */
  account: number;
  /** From one address: a whole school may share it. */
  address: number;
}

/**
 * Slows down whoever guesses: at one account from one address, at one account from many, at many accounts. Each mistake counts
 * against the account and the address together, so that one teacher's mistakes lock nobody else of the school out.
 */
export function limitGuesses({ account, address }: Forgiven): RequestHandler[] {
  const accountOf = ({ body, session }: Request) =>
    session.teacherId ?? String((body as { email?: unknown } | undefined)?.email ?? '').toLowerCase();
  /** Codes are nobody's account: who tries at one of them must not lock all others out of theirs. */
  const isNobodys = (request: Request) => accountOf(request) === '';
  const addressOf = ({ ip }: Request) => ipKeyGenerator(ip ?? '');
  const limited = (limit: number, keyGenerator: (request: Request) => string, skip = (_request: Request) => false) =>
    rateLimit({
      skip,
      windowMs: QUARTER_HOUR_MS,
      limit,
      keyGenerator,
      skipSuccessfulRequests: true,
      standardHeaders: 'draft-8',
      legacyHeaders: false,
      handler: (request, _response, next) => {
        request.noteSecurity('too many tries');
        next(new RequestProblem(429, 'too-many-tries', 'Too many tries. Wait a quarter of an hour, then try again.'));
      },
    });
  return [
    // Whose account it is about is read here; the route finds it read.
    express.json({ limit: '10kb', inflate: false }),
    limited(account, (request) => `${accountOf(request)} ${addressOf(request)}`, isNobodys),
    limited(account * 5, accountOf, isNobodys),
    limited(address, addressOf),
  ];
}
