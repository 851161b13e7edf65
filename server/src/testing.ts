import { createHash } from 'node:crypto';
import { mkdtempSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PROTOCOL } from '@kite-trail/core/contract/protocol';
import { UPLOAD_PART_BYTES } from '@kite-trail/core/contract/upload';
import { encodeHistory, NO_HISTORY } from '@kite-trail/core/formats/history-coding';
import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import { encodeTakePart, type TakePart } from '@kite-trail/core/formats/take-part';
import type { Student } from '@kite-trail/core/contract/student';
import { NOTHING_HEARD } from '@kite-trail/core/sound/profile';
import type { AssetId, LessonId } from '@kite-trail/core/lesson/ids';
import type { Change } from '@kite-trail/core/lesson/mark';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { trim } from '@kite-trail/core/trail/edit';
import knex, { type Knex } from 'knex';
import { nanoid } from 'nanoid';
import { pino } from 'pino';
import { afterAll, beforeAll, inject } from 'vitest';
import { addTeacher } from './accounts/accounts';
import { SetUpCode } from './accounts/set-up';
import { createApp } from './app';
import type { Forgiven } from './http/limits';
import type { SchoolDrives } from './drives/school-drives';
import { Relay } from './live/relay';
import { takeLiveSockets } from './live/sockets';
import { Delivery } from './mail/delivery';
import type { Post } from './mail/post';
import { openDatabase } from './database/open';
import type {} from './database/postgres-cluster';
import type { SchoolAccounts } from './school-accounts/provider';
import { doJob, type JobName } from './work/jobs';
import { ThreadedWork, type Work } from './work/work';

/** Somebody who calls the server, with their own cookies. */
export interface Caller {
  (method: string, path: string, body?: unknown, headers?: Record<string, string>): Promise<Response>;
}

export interface TestServer {
  db: Knex;
  /** Where the school has a mail server. */
  delivery: Delivery | null;
  /** By which the school is set up. */
  setUpCode: string;
  /** What it has logged, and which security events it has noted. */
  logged: readonly string[];
  noted: readonly { event: string; address?: string }[];
  /** Where it listens. */
  port: number;
  caller(): Caller;
  signedIn(email: string, more?: { isKeeper: boolean }): Promise<Caller>;
  close(): Promise<void>;
}

export const PASSWORD = 'harbour-light-9';

const postgresFolder = inject('postgresFolder');
/** The same tests run on SQLite and on PostgreSQL. */
export const isOnPostgres = postgresFolder !== undefined;

/** @returns the address of an empty database in the tests' own PostgreSQL */
export async function newPostgresDatabase(): Promise<string> {
  const name = `test_${nanoid().toLowerCase().replaceAll('-', '_')}`;
  const address = (database: string) => `postgresql:///${database}?host=${postgresFolder}&user=postgres`;
  const cluster = knex({ client: 'pg', connection: address('postgres') });
  await cluster.raw('CREATE DATABASE ??', [name]);
  await cluster.destroy();
  return address(name);
}

interface Start {
  address?: string;
  /** Whether what takes long is done in threads of their own, which take a while to begin. */
  isThreaded?: boolean;
  /** Stands in the way of whoever does what takes long. */
  hinder?: (name: JobName) => void;
  trustedProxies?: string;
  forgiven?: Forgiven;
  /** Takes letters. */
  post?: Post;
  accounts?: SchoolAccounts;
  drives?: SchoolDrives;
}

/** Does the same jobs where the tests are. */
const workHere = (db: Knex, hinder: Start['hinder']): Work & { close(): Promise<void> } => ({
  do: (name, _owner, asked) => {
    hinder?.(name);
    return doJob(db, name, asked);
  },
  close: async () => {},
});

/** A server on a free port, with an empty database or the one at an address. */
export async function startTestServer({
  address,
  isThreaded = false,
  hinder,
  trustedProxies,
  forgiven,
  post,
  accounts,
  drives,
}: Start = {}): Promise<TestServer> {
  const folder = mkdtempSync(join(tmpdir(), 'kite-trail-'));
  const empty = () => (isOnPostgres ? newPostgresDatabase() : join(folder, 'test.sqlite'));
  const at = address ?? (await empty());
  const db = await openDatabase(at);
  const work = isThreaded ? new ThreadedWork(db, at) : workHere(db, hinder);
  const setUp = SetUpCode.make();
  const logged: string[] = [];
  const noted: { event: string }[] = [];
  const log = pino({ level: 'debug' }, { write: (line) => void logged.push(line) });
  const delivery = post ? new Delivery(db, post, log) : null;
  const relay = new Relay();
  const app = createApp({
    db,
    relay,
    work,
    log,
    security: pino({ base: null }, { write: (line) => void noted.push(JSON.parse(line)) }),
    sessionSecret: 'for tests only',
    webFolder: folder,
    setUp,
    delivery,
    accounts,
    drives,
    trustedProxies,
    forgiven: forgiven ?? { account: 5, address: 20 },
  });
  const server = app.listen(0);
  await new Promise((resolve) => server.once('listening', resolve));
  const endSockets = takeLiveSockets(server, { db, relay });
  const { port } = server.address() as AddressInfo;

  const caller = (): Caller => {
    let cookie = '';
    return async (method, path, body, headers = {}) => {
      const binary = body instanceof Uint8Array;
      const response = await fetch(`http://localhost:${port}/api${path}`, {
        method,
        headers: {
          [PROTOCOL.header]: String(PROTOCOL.version),
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
    delivery,
    setUpCode: setUp.code,
    logged,
    noted,
    port,
    caller,
    signedIn: async (email, more) => {
      await addTeacher(db, { name: email, email, password: PASSWORD, ...more });
      const call = caller();
      await call('POST', '/session', { email, password: PASSWORD });
      return call;
    },
    close: async () => {
      endSockets();
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await delivery?.close();
      await Promise.all([work.close(), db.destroy()]);
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

/** Makes a lesson in which something was recorded, and shares it. */
export async function sharedLesson(
  call: Caller,
  lesson: { title: string },
  { take, seconds }: { take: string; seconds: number },
): Promise<LessonDocument> {
  const { id } = await json<LessonDocument>(call('POST', '/lessons', lesson));
  await call('POST', `/lessons/${id}/takes`, { id: take, hasSound: true });
  await call('PUT', `/takes/${take}/parts/0`, part(secondsToSamples(seconds)));
  await call('POST', `/takes/${take}/end`, { parts: 1 });
  return json(call('POST', `/lessons/${id}/publications/1`));
}

/** A server for the tests of a file, and a teacher who is signed in there. */
export function testSchool(email = 'mate@example.org', { isKeeper = false, isThreaded = false } = {}) {
  const school = {} as { server: TestServer; signedIn: Caller };
  beforeAll(async () => {
    school.server = await startTestServer({ isThreaded });
    school.signedIn = await school.server.signedIn(email, { isKeeper });
  });
  afterAll(() => school.server.close());
  const call: Caller = (...asked) => school.signedIn(...asked);
  return { school, call };
}

/** Files are named by the SHA-256 of their bytes. */
export const assetIdOf = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex') as AssetId;

/** Hands a file over part by part, as a page does. */
export async function uploaded(call: Caller, bytes: Uint8Array): Promise<AssetId> {
  const asset = assetIdOf(bytes);
  for (let n = 0; n * UPLOAD_PART_BYTES < bytes.length; n++) {
    const part = bytes.subarray(n * UPLOAD_PART_BYTES, (n + 1) * UPLOAD_PART_BYTES);
    await call('PUT', `/uploads/${asset}/parts/${n}`, part);
  }
  return asset;
}

/** Gives a lesson a file. */
export async function addFile(call: Caller, lesson: LessonId, bytes: Uint8Array, name = 'file'): Promise<Response> {
  return call('POST', `/lessons/${lesson}/assets`, { asset: await uploaded(call, bytes), name });
}

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

/** A class of the caller's with students, each of whom has come in by their key. */
export async function classWithStudents(
  server: TestServer,
  call: Caller,
  names: readonly string[],
): Promise<{ id: string; students: Student[]; as: Caller[] }> {
  const { id } = await json<{ id: string }>(call('POST', '/classes', { name: 'Crew', color: 'sea' }));
  const students = await json<Student[]>(call('POST', `/classes/${id}/students`, { names }));
  const comeIn = async ({ key }: Student) => {
    const student = server.caller();
    await student('POST', '/student-session', { key });
    return student;
  };
  return { id, students, as: await Promise.all(students.map(comeIn)) };
}

/** What is usually said of a task. */
export const usualAbout = {
  title: 'Draw the leading line',
  question: 'Which two marks lead in?',
  dueAt: null,
  takesLate: true,
  allows: ['voice', 'text', 'pictures'],
  criteria: [],
  instruction: null,
  example: null,
  choices: [],
  isLive: false,
  isOpen: false,
};

/** What is usual of a task. */
export const usualTask = { ...usualAbout, page: null, pieces: null };
