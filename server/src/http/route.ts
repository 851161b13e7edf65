import type { Request, Response, Router } from 'express';
import type { Knex } from 'knex';
import { inTransaction } from '../database/transaction';
import { nothing, type Body } from './body';
import { answerOnce, isAnswered, keyOf } from './idempotency';
import { grant, type Granted, type Right } from './rights';

/** What a route is called with. */
type Call<R extends Right, T> = Granted[R] & {
  body: T;
  request: Request;
  response: Response;
  /** The database; in the request's own transaction where it may change something. */
  db: Knex;
  /** Does something once what the request has changed is kept, such as telling other windows of it. */
  afterwards(what: () => void | Promise<void>): void;
};

interface RouteSpec<R extends Right, T> {
  method: 'get' | 'post' | 'put' | 'delete';
  path: string;
  right: R;
  body?: Body<T>;
  /** It asks for, or answers with, what nobody but its teacher may know: nothing of it is kept, so it may be done again. */
  isSecret?: boolean;
  /** Answers the request; what it returns is sent as JSON, unless it has sent something itself. */
  handle(call: Call<R, T>): unknown;
}

/** A route of any right and body, ready to be put into a router. */
export interface Route {
  method: 'get' | 'post' | 'put' | 'delete';
  path: string;
  right: Right;
  mount(router: Router, db: Knex): void;
}

/**
 * States a route: where it is, who may call it, what it takes and what it does. A teacher's request that changes something is
 * one transaction: whether it may, what it decides by and what it does, and its kept answer where it names an idempotency
 * key. So it is done once, on what is there then, or not at all.
 */
export function route<R extends Right, T = undefined>(spec: RouteSpec<R, T>): Route {
  const { method, path, right, body: taken = nothing as Body<T>, isSecret = false } = spec;

  async function answer(db: Knex, request: Request, response: Response): Promise<unknown> {
    const afterwards: (() => void | Promise<void>)[] = [];
    const isChanging = method !== 'get' && right !== 'anyone';
    // Nobody's bytes are read before it is known that they may come, or have come before.
    const isRead = spec.body !== undefined && isChanging;
    if (isRead && (isSecret || !(await isAnswered(db, request)))) await grant(db, right, request, 'to read');
    const body = await taken.read(request, response);
    const handle = async (within: Knex) => {
      const granted = await grant(within, right, request, isChanging ? 'to change' : 'to read');
      return spec.handle({
        ...granted,
        body,
        request,
        response,
        db: within,
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

  return {
    method,
    path,
    right,
    mount: (router, db) => {
      router[method](path, async (request, response) => {
        const answered = await answer(db, request, response);
        if (response.headersSent) return;
        if (answered === undefined) response.status(204).end();
        else response.json(answered);
      });
    },
  };
}
