import type { TeacherId } from '@kite-trail/core/lesson/ids';
import type { Request, Response, Router } from 'express';
import type { Knex } from 'knex';
import type { Work } from '../work/work';
import { inTransaction } from '../database/transaction';
import { nothing, type Body } from './body';
import { writerOf } from './callers';
import { answerOnce, isAnswered, keyOf } from './idempotency';
import { RequestProblem } from './problem';
import { grant, type Granted, type Right } from './rights';

/** What a route is called with. */
type Call<R extends Right, T, P> = Granted[R] & {
  body: T;
  /** What was found out beforehand. */
  prepared: P;
  request: Request;
  response: Response;
  /** The database; in the request's own transaction where it may change something. */
  db: Knex;
  /** Who does what may take long. */
  work: Work;
  /** Does something once what the request has changed is kept, such as telling other windows of it. */
  afterwards(what: () => void | Promise<void>): void;
};

/** What is known before a request's transaction begins. */
type Preparing<R extends Right, T> = Granted[R] & { body: T; request: Request } & Ground;

/**
 * What a route answers with when it is done, as JSON: how that which it is about is then. It is not kept with an idempotency key,
 * but found anew when the request comes again.
 */
export type Telling<A> = (about: A, at: Ground & { owner: TeacherId }) => Promise<Uint8Array>;

interface RouteSpec<R extends Right, T, P, A> {
  method: 'get' | 'post' | 'put' | 'delete';
  path: string;
  right: R;
  body?: Body<T>;
  /** It asks for, or answers with, what nobody but its teacher may know: nothing of it is kept, so it may be done again. */
  isSecret?: boolean;
  /** What it changes is not in the school's database: nothing here is held while somebody else is waited for. */
  isElsewhere?: boolean;
  /**
   * Finds out what takes long before the request's transaction begins. Meanwhile all may change: whoever decides by what
   * was found makes sure, in the transaction, that it still is so.
   */
  prepare?(call: Preparing<R, T>): Promise<P>;
  /** Answers the request; what it returns is told of, or sent as JSON, unless it has sent something itself. */
  handle(call: Call<R, T, P>): A | Promise<A>;
  tells?: Telling<Awaited<A>>;
}

/** What all routes stand on. */
export interface Ground {
  db: Knex;
  work: Work;
}

/** A route of any right and body, ready to be put into a router. */
export interface Route {
  method: 'get' | 'post' | 'put' | 'delete';
  path: string;
  right: Right;
  mount(router: Router, ground: Ground): void;
}

/** What was asked for is done: whoever hears that it was too much would take it for refused. */
function refuseForNow(error: unknown): never {
  if (!(error instanceof RequestProblem) || error.status === 404) throw error;
  throw new RequestProblem(
    503,
    'told-later',
    'The school’s server has much to do. What you did is kept; it is shown soon.',
  );
}

/**
 * States a route: where it is, who may call it, what it takes and what it does. A teacher's request that changes something is
 * one transaction: whether it may, what it decides by and what it does, and its kept answer where it names an idempotency
 * key. So it is done once, on what is there then, or not at all.
 */
export function route<R extends Right, T = undefined, P = undefined, A = unknown>(spec: RouteSpec<R, T, P, A>): Route {
  const { method, path, right, body: wanted = nothing as Body<T>, isSecret = false, isElsewhere = false } = spec;

  async function answer({ db, work }: Ground, request: Request, response: Response): Promise<unknown> {
    const afterwards: (() => void | Promise<void>)[] = [];
    const isChanging = method !== 'get' && right !== 'anyone' && !isElsewhere;
    // Nobody's bytes are read before it is known that they may come, or have come before.
    const isGrantedEarly = (spec.body !== undefined || spec.prepare !== undefined) && (isChanging || isElsewhere);
    const isNew = isGrantedEarly && (isSecret || isElsewhere || !(await isAnswered(db, request)));
    const early: Granted[R] | null = isNew ? await grant(db, right, request, 'to read') : null;
    const body: T = await wanted.read(request, response, work);
    const preparing = { ...early, body, request, db, work } as Preparing<R, T>;
    const prepared = (early && (await spec.prepare?.(preparing))) as P;
    const handle = async (within: Knex) => {
      const granted = await grant(within, right, request, isChanging ? 'to change' : 'to read');
      return spec.handle({
        ...granted,
        body,
        prepared,
        request,
        response,
        db: within,
        work,
        afterwards: (what) => afterwards.push(what),
      });
    };
    const once = (trx: Knex) => {
      const key = isSecret ? null : keyOf(request);
      return key === null ? handle(trx) : answerOnce(trx, key, request, handle);
    };
    const answered = isChanging ? await inTransaction(db, once) : await handle(db);
    for (const what of afterwards) await what();
    return answered;
  }

  const isForHolders = /link’s/.test(right);

  return {
    method,
    path,
    right,
    mount: (router, ground) => {
      router[method](path, async (request, response) => {
        // What is a teacher's is kept by nobody on the way; a route that knows better says so.
        if (!isForHolders) response.set('Cache-Control', 'no-store');
        const answered = await answer(ground, request, response);
        if (response.headersSent) return;
        // Until a week ago answers were kept whole, where now there is the name of what is told of.
        if (spec.tells && typeof answered === 'string') {
          const at = { ...ground, owner: (await writerOf(ground.db, request)).teacher.id };
          const told = await spec.tells(answered as Awaited<A>, at).catch(refuseForNow);
          response.type('json').send(Buffer.from(told));
        } else if (answered === undefined) response.status(204).end();
        else response.json(answered);
      });
    },
  };
}
