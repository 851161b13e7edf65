import express, { type Request, type RequestHandler } from 'express';
import { ipKeyGenerator, rateLimit, type Options } from 'express-rate-limit';
import { RequestProblem } from './problem';

const QUARTER_HOUR_MS = 15 * 60 * 1000;

const addressOf = ({ ip }: Request) => ipKeyGenerator(ip ?? '');

/** How many mistakes are forgiven in a quarter of an hour. */
export interface Forgiven {
  /** For one account, from one address. */
  account: number;
  /** From one address: a whole school may share it. */
  address: number;
}

/**
 * Slows down whoever guesses: at one thing from one address, at one thing from many, at many things. Each mistake counts against the
 * thing and the address together, so that one person's mistakes lock nobody else of the school out.
 * @param thingOf what is guessed at: an account, or a link; nothing where it is nobody's, such as a code
 */
function limited({ account, address }: Forgiven, thingOf: (request: Request) => string): RequestHandler[] {
  /** Codes are nobody's account: who tries at one of them must not lock all others out of theirs. */
  const isNobodys = (request: Request) => thingOf(request) === '';
  return [
    mistakes({
      limit: account,
      keyGenerator: (request) => `${thingOf(request)} ${addressOf(request)}`,
      skip: isNobodys,
    }),
    mistakes({ limit: account * 5, keyGenerator: thingOf, skip: isNobodys }),
    mistakes({ limit: address, keyGenerator: addressOf }),
  ];
}

const mistakes = (options: Partial<Options>): RequestHandler =>
  rateLimit({
    windowMs: QUARTER_HOUR_MS,
    skipSuccessfulRequests: true,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    handler: (request, _response, next) => {
      request.noteSecurity('too many tries');
      next(new RequestProblem(429, 'too-many-tries', 'Too many tries. Wait a quarter of an hour, then try again.'));
    },
    ...options,
  });

/** Slows down whoever guesses at accounts. */
export const limitGuesses = (forgiven: Forgiven): RequestHandler[] => [
  // Whose account it is about is read here; the route finds it read.
  express.json({ limit: '10kb', inflate: false }),
  ...limited(
    forgiven,
    ({ body, session }) =>
      session.teacherId ?? String((body as { email?: unknown } | undefined)?.email ?? '').toLowerCase(),
  ),
];

/** Slows down whoever guesses at passcodes. */
export const limitPasscodes = (forgiven: Forgiven): RequestHandler[] =>
  limited(forgiven, ({ params }) => String(params.token));

/** Slows down whoever guesses at links: only those that lead nowhere count. */
export const limitLinks = ({ address }: Forgiven): RequestHandler =>
  mistakes({ limit: address, requestWasSuccessful: (_request, response) => response.statusCode !== 404 });

/** Nobody asks, or tells how they watch, more often than this from one address, which a whole school may share. */
const MOST_QUESTIONS = 60;
const MOST_REPORTS = 20_000;

const busy = (limit: number): RequestHandler =>
  rateLimit({
    windowMs: QUARTER_HOUR_MS,
    limit,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    keyGenerator: addressOf,
    handler: (_request, _response, next) =>
      next(new RequestProblem(429, 'too-many', 'Too many at once. Wait a quarter of an hour, then try again.')),
  });

/** Slows down whoever asks without end. */
export const limitQuestions = (): RequestHandler => busy(MOST_QUESTIONS);

/** Slows down whoever makes up visits. */
export const limitReports = (): RequestHandler => busy(MOST_REPORTS);
