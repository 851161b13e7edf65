import { mkdtempSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { encodeHistory, NO_HISTORY } from '@kite-trail/core/formats/history-coding';
import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import { encodeTakePart, type TakePart } from '@kite-trail/core/formats/take-part';
import { NOTHING_HEARD } from '@kite-trail/core/sound/profile';
import type { Change } from '@kite-trail/core/lesson/mark';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { trim } from '@kite-trail/core/trail/edit';
import type { Knex } from 'knex';
import { pino } from 'pino';
import { addTeacher } from './accounts/accounts';
import { createApp } from './app';
import { openDatabase } from './database/open';

/** Somebody who calls the server, with their own cookies. */
export interface Caller {
  (method: string, path: string, body?: unknown, headers?: Record<string, string>): Promise<Response>;
}

export interface TestServer {
  db: Knex;
  caller(): Caller;
  signedIn(email: string): Promise<Caller>;
  close(): Promise<void>;
}

export const PASSWORD = 'harbour-light-9';

/** A server with an empty database on a free port. */
export async function startTestServer(): Promise<TestServer> {
  const folder = mkdtempSync(join(tmpdir(), 'kite-trail-'));
  const db = await openDatabase(join(folder, 'test.sqlite'));
  const app = createApp({
    db,
    log: pino({ level: 'silent' }),
    sessionSecret: 'for tests only',
    webFolder: folder,
    signInTries: 5,
  });
  const server = app.listen(0);
  await new Promise((resolve) => server.once('listening', resolve));
  const { port } = server.address() as AddressInfo;

  const caller = (): Caller => {
    let cookie = '';
    return async (method, path, body, headers = {}) => {
      const binary = body instanceof Uint8Array;
      const response = await fetch(`http://localhost:${port}/api${path}`, {
        method,
        headers: {
          'x-kite-trail': '1',
          ...(body === undefined ? {} : { 'content-type': binary ? 'application/octet-stream' : 'application/json' }),
          ...(cookie ? { cookie } : {}),
          ...headers,
        },
        body: body === undefined ? undefined : binary ? Buffer.from(body) : JSON.stringify(body),
      });
      cookie = response.headers.getSetCookie()[0]?.split(';')[0] ?? cookie;
      return response;
    };
  };

  return {
    db,
    caller,
    signedIn: async (email) => {
      await addTeacher(db, { name: email, email, password: PASSWORD });
      const call = caller();
      await call('POST', '/session', { email, password: PASSWORD });
      return call;
    },
    close: async () => {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await db.destroy();
    },
  };
}

export const part = (toSamples: number, more: Partial<TakePart> = {}): Uint8Array =>
  encodeTakePart({
    marks: [],
    unfinished: [],
    toSamples,
    sound: Uint8Array.of(toSamples % 251),
    heard: NOTHING_HEARD,
    ...more,
  });

/** The body that makes changes to a lesson as it is. */
export const changesBody = (lesson: { revision: number }, changes: readonly Change[], history = NO_HISTORY) => ({
  revision: lesson.revision,
  marks: base64(encodeMarks(changes.map((change) => ({ ...change, atSamples: 0 })))),
  history: base64(encodeHistory(history)),
});

/** The body that trims a lesson to a part of itself. */
export const trimBody = ({ edition, edit }: LessonDocument, fromSamples: number, toSamples: number) => ({
  from: edit,
  edition: { ...edition, programme: trim(edition.programme, fromSamples, toSamples) },
});

const base64 = (bytes: Uint8Array) => Buffer.from(bytes).toString('base64');

/** The answer's JSON, as what it is meant to be. */
export const json = async <T>(response: Response | Promise<Response>): Promise<T> =>
  (await (await response).json()) as T;

/** The message of a refused request. */
export const messageOf = async (response: Response): Promise<string> =>
  (await json<{ message: string }>(response)).message;
