import type { Request, Response, Router } from 'express';
import type { Knex } from 'knex';
import type { z } from 'zod';
import { badInput } from './problem';
import { grant, type Granted, type Right } from './rights';

interface RouteSpec<R extends Right, Body> {
  method: 'get' | 'post' | 'put' | 'delete';
  path: string;
  right: R;
  /** What the JSON body must be. */
  body?: z.ZodType<Body>;
  /** Answers the request; what it returns is sent as JSON, unless it has sent something itself. */
  handle(call: Granted[R] & { body: Body; request: Request; response: Response }): Promise<unknown>;
}

/** A route of any right and body, ready to be put into a router. */
export interface Route {
  method: 'get' | 'post' | 'put' | 'delete';
  path: string;
  right: Right;
  mount(router: Router, db: Knex): void;
}

/** States a route: where it is, who may call it, what it takes and what it does. */
export function route<R extends Right, Body = undefined>(spec: RouteSpec<R, Body>): Route {
  const { method, path, right } = spec;
  return {
    method,
    path,
    right,
    mount: (router, db) => {
      router[method](path, async (request, response) => {
        const granted = await grant(db, right, request);
        const body = parseBody(spec.body, request.body);
        const answer = await spec.handle({ ...granted, body, request, response });
        if (response.headersSent) return;
        if (answer === undefined) response.status(204).end();
        else response.json(answer);
      });
    },
  };
}

function parseBody<Body>(schema: z.ZodType<Body> | undefined, input: unknown): Body {
  if (!schema) return undefined as Body;
  const parsed = schema.safeParse(input);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  throw badInput(issue.path.length > 0 ? `${issue.message} (${issue.path.join(' → ')})` : issue.message);
}
