import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { unzipSync } from 'fflate';
import { NOTHING_SAID, type LessonDocument } from '@kite-trail/core/contract/lesson';
import { USUAL_LINK } from '@kite-trail/core/contract/link';
import type { Template } from '@kite-trail/core/contract/template';
import { USUAL_FILM } from '@kite-trail/core/film/settings';
import { encodePayload } from '@kite-trail/core/formats/payload';
import { sceneOf } from '@kite-trail/core/lesson/scene';
import { createCanvas } from '@napi-rs/canvas';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SetUpCode } from './accounts/set-up';
import { allRoutes } from './app';
import { keepAccount } from './drives/accounts';
import { KEY_BYTES, Seal } from './drives/seal';
import { TABLES } from './database/move';
import type { LinkRow, TeacherRow } from './database/rows';
import {
  addFile,
  assetIdOf,
  changesBody,
  isOnPostgres,
  json,
  part,
  startTestServer,
  trimBody,
  uploaded,
  type Caller,
  type TestServer,
} from './testing';

/**
 * Every route, given what no page would send: other ids, other JSON, damaged bytes. It answers, with a reason where it refuses, and
 * what it refuses changes nothing. The same requests each time.
 */
const SEED = 20261128;
const RUNS_A_ROUTE = isOnPostgres ? 10 : 30;

let server: TestServer;
let owner: Caller;
const params: Record<string, string> = {
  take: 'take-0001',
  n: '0',
  programme: '1',
  version: 'version-0001',
  id: 'x',
  question: 'q',
  drive: 'boats',
  sending: 'film-to-nobodys-drive',
};
/** Nobody listens there. */
const DRIVES = {
  all: [{ id: 'boats', name: 'Boats', address: 'http://localhost:9/' }],
  seal: new Seal(Buffer.alloc(KEY_BYTES)),
};
/** A second in which nothing is written. */
const STILL = { lengthSamples: 48_000, marks: [] };
/** What a page would send, by route: it is changed here and there. */
const bodies: Record<string, unknown> = {};

beforeAll(async () => {
  server = await startTestServer({ forgiven: { account: 1e6, address: 1e6 }, drives: DRIVES });
  owner = await server.signedIn('owner@example.org', { isKeeper: true });
  const teacher = (await server.db<TeacherRow>('teachers').first())!.id;
  params.teacher = teacher;
  const driveAccount = { userName: 'ada', password: 'cleat-hitch' };
  await keepAccount(server.db, DRIVES, teacher, DRIVES.all[0], driveAccount);
  const lesson = await json<LessonDocument>(owner('POST', '/lessons', { title: 'Knots' }));
  params.lesson = lesson.id;
  const crew = { name: 'Crew', color: 'sea' };
  params.class = (await json<{ id: string }>(owner('POST', '/classes', crew))).id;
  const png = createCanvas(40, 30).toBuffer('image/png');
  await addFile(owner, lesson.id, png);
  params.asset = assetIdOf(png);
  const { page, pieces } = lesson.pages[0];
  const named = { name: 'Squared', page, pieces };
  params.template = (await json<Template>(owner('POST', `/lessons/${lesson.id}/templates`, named))).id;
  await owner('POST', `/lessons/${lesson.id}/takes`, { id: params.take, hasSound: true });
  await owner('PUT', `/takes/${params.take}/parts/0`, part(48_000));
  const recorded = await json<LessonDocument>(owner('POST', `/takes/${params.take}/end`, { parts: 1 }));
  await owner('POST', `/lessons/${lesson.id}/publications/1`);
  const link = (await server.db<LinkRow>('links').first())!;
  Object.assign(params, { token: link.token, publication: link.publication_id });
  const archive = unzipSync(new Uint8Array(await (await owner('GET', `/lessons/${lesson.id}/archive`)).arrayBuffer()));
  const archivedPath = Object.keys(archive).find((path) => path.endsWith('/lesson.json'))!;
  const archived: unknown = JSON.parse(Buffer.from(archive[archivedPath]).toString());
  const account = { name: 'Ada', email: 'ada@example.org', password: 'harbour-light-9' };
  const change = { kind: 'turn', atSamples: 0, page: page.id } as const;
  Object.assign(bodies, {
    'post /first-teacher': { ...account, code: 'aaaa-bbbb-cccc' },
    'post /session': account,
    'post /tickets/joining': { ...account, code: 'x' },
    'post /tickets/resetting': { password: 'harbour-light-9', code: 'x' },
    'put /account': { ...account, password: 'not-the-one-it-is' },
    'put /teachers/:teacher': { isKeeper: true, isShutOut: false },
    'put /drives/:drive/account': driveAccount,
    'post /drives/:drive/sendings': { path: ['Films'], name: 'Knots.mp4', sizeBytes: 10 },
    'post /lessons': { title: 'Bends', classes: [] },
    'post /archives/wanted': { lesson: lesson.id, assets: [params.asset] },
    'post /archives/lessons': { lesson: archived, isCopy: true, classes: [params.class] },
    'put /lessons/:lesson/name': { title: 'Bends' },
    'put /lessons/:lesson/about': { ...NOTHING_SAID, tags: ['rope'], language: 'en' },
    'post /classes': crew,
    'put /classes': { classes: [params.class] },
    'put /classes/:class': { ...crew, cover: null, isArchived: true },
    'post /placing': { lessons: [lesson.id], from: null, to: params.class, before: null },
    'post /binning': { lessons: [lesson.id], isBinned: false },
    'post /handing': { lessons: [lesson.id], to: params.teacher },
    'post /favourites': { lessons: [lesson.id], isFavourite: true },
    'post /lessons/:lesson/changes': changesBody(lesson, [change]),
    'put /lessons/:lesson/edition': trimBody(recorded, 0, 24_000),
    'post /lessons/:lesson/takes': { id: 'take-0002', hasSound: true, plan: { kind: 'carry-on' } },
    'post /lessons/:lesson/templates': named,
    'post /lessons/:lesson/publications/:programme': { sound: null, loudness: '', part: null },
    'post /lessons/:lesson/links': { settings: USUAL_LINK, part: null, awaitsPasscode: false },
    'put /lessons/:lesson/links/:token': { settings: { ...USUAL_LINK, isListed: true, sites: ['https://a.example'] } },
    'put /lessons/:lesson/links/:token/passcode': { passcode: null },
    'post /watch/:token/passcode': { passcode: 'harbour 7' },
    'post /watch/:token/publications/:publication/visits': {
      ...{ visit: 'v'.repeat(21), n: 0, at: 0, heardSeconds: 1 },
      ...{ heard: [1], wentBack: [0], slowed: [0] },
    },
    'post /watch/:token/publications/:publication/questions': { id: 'q'.repeat(21), atSamples: 0, question: 'Why?' },
    'put /lessons/:lesson/questions/:question': { answer: 'Because.' },
    'put /lessons/:lesson/counting': { isCounted: false },
    'put /school/counting': { isCounting: true },
    'put /catalogue/:token/favourite': { isFavourite: true },
    'post /lessons/:lesson/film-parts': {
      payload: await uploaded(owner, encodePayload({ base: sceneOf([{ page, pieces: [] }]), trail: STILL })),
      settings: { ...USUAL_FILM, sizePx: 480 },
      shows: { kind: 'frames', frames: [0, 1], untilSeconds: 1, cues: [] },
    },
    'post /lessons/:lesson/assets': { asset: params.asset, name: 'chart.png' },
    'put /takes/:take/parts/:n': part(9600),
    'put /lessons/:lesson/assets/:asset/pages/:n': new Uint8Array(png),
    'put /uploads/:asset/parts/:n': new Uint8Array(png),
  });
});
afterAll(() => server.close());

/** All that the school keeps. Who was seen when is not of it, nor what is kept of an answer. */
async function keptBySchool(): Promise<string> {
  const hash = createHash('sha256');
  for (const [table, order] of Object.entries(TABLES)) {
    if (table === 'sessions' || table === 'kept_answers') continue;
    const rows = await server.db(table).orderBy([...order]);
    hash.update(JSON.stringify([table, rows]));
  }
  return hash.digest('hex');
}

/** Half a letter cannot be in an address. */
const inPath = (text: string) => encodeURIComponent(text.replace(/\p{Surrogate}/gu, '?'));

const otherParam = fc.oneof(
  fc.string({ unit: 'binary', minLength: 1, maxLength: 60 }),
  fc.constantFrom(
    '..',
    '0',
    '-1',
    '1e309',
    '__proto__',
    'constructor',
    "' OR 1=1 --",
    'a'.repeat(3000),
    '\0',
    '%',
    'undefined',
  ),
);

/** A value in which something is other than it was. */
function otherJson(value: unknown): fc.Arbitrary<unknown> {
  const any = fc.oneof(
    fc.jsonValue(),
    fc.constantFrom<unknown>(null, -1, 1e308, 2 ** 53, '', '\0', '\ud800', [], {}, 'x'.repeat(5000), true),
  );
  if (typeof value !== 'object' || value === null) return any;
  const keys = Object.keys(value);
  if (keys.length === 0) return any;
  const within = fc
    .constantFrom(...keys)
    .chain((key) =>
      otherJson((value as Record<string, unknown>)[key]).map((other) =>
        Array.isArray(value)
          ? value.map((one, i) => (String(i) === key ? other : one))
          : { ...value, [key]: other, ['__proto__']: other },
      ),
    );
  const without = fc.constantFrom(...keys).map((key) => {
    const rest = { ...value } as Record<string, unknown>;
    delete rest[key];
    return rest;
  });
  return fc.oneof({ weight: 5, arbitrary: within }, without, any);
}

const otherBytes = (bytes: Uint8Array): fc.Arbitrary<Uint8Array> =>
  fc.oneof(
    fc.uint8Array({ maxLength: 200 }),
    fc.nat(bytes.length).map((end) => bytes.slice(0, end)),
    fc.tuple(fc.nat(Math.max(0, bytes.length - 1)), fc.nat(255)).map(([at, to]) => {
      const turned = bytes.slice();
      turned[at] = to;
      return turned;
    }),
  );

const otherBody = (body: unknown): fc.Arbitrary<unknown> =>
  fc.oneof(
    { weight: 6, arbitrary: body instanceof Uint8Array ? otherBytes(body) : otherJson(body) },
    fc.uint8Array({ maxLength: 60 }),
    fc.constant(undefined),
  );

const otherHeaders = fc.oneof(
  { weight: 4, arbitrary: fc.constant({}) },
  fc.constantFrom<Record<string, string>>(
    { 'idempotency-key': '""' },
    { 'idempotency-key': 'x'.repeat(2000) },
    { 'content-type': 'text/plain' },
    { 'content-type': 'application/json; charset=utf-7' },
    { 'content-encoding': 'gzip' },
    { 'x-window': 'w'.repeat(3000) },
    { range: 'bytes=9-1,-0,99999999999999999999-' },
    { 'if-range': '"x"', range: 'bytes=0-' },
    { origin: 'null' },
  ),
);

/** What would shut the test out, or take away what other routes are about. News stay open; what is open is no answer. */
const EXCLUDED = [
  'delete /session',
  'post /account/deletion',
  'put /account/password',
  'delete /classes/:class',
  'delete /lessons/:lesson',
  'delete /lessons/:lesson/links/:token',
  'delete /templates/:template',
  'get /lessons/:lesson/news',
];
const routes = allRoutes({ setUp: SetUpCode.make(), drives: DRIVES })
  .map(({ method, path }) => ({ method, path, name: `${method} ${path}` }))
  .filter(({ name }) => !EXCLUDED.includes(name));

describe('a request that no page would send', () => {
  it.each(routes.map((one) => [one.name, one] as const))(
    'is answered, and changes nothing where it is refused: %s',
    async (name, { method, path }) => {
      const asked = fc.record({
        // Now and then one of the ids is another one, or none.
        other: fc.oneof(
          { weight: 3, arbitrary: fc.constant(null) },
          fc.record({ which: fc.nat(3), value: otherParam }),
        ),
        body:
          method === 'get' || method === 'delete'
            ? fc.constant(undefined)
            : fc.constant(null).chain(() => otherBody(bodies[name] ?? {})),
        headers: otherHeaders,
      });
      let kept = await keptBySchool();
      await fc.assert(
        fc.asyncProperty(asked, async ({ other, body, headers }) => {
          const names = [...path.matchAll(/:(\w+)/g)].map(([, one]) => one);
          const replaced = other && names[other.which % Math.max(1, names.length)];
          const at = path.replace(/:(\w+)/g, (_, one: string) =>
            one === replaced ? inPath(other!.value) : params[one],
          );
          const answer = await owner(method.toUpperCase(), at, body, headers);
          const text = await answer.text();
          expect([answer.status < 500 || answer.status === 503, at, text.slice(0, 300)]).toEqual([
            true,
            at,
            text.slice(0, 300),
          ]);
          const now = await keptBySchool();
          if (answer.status >= 400) expect(now).toBe(kept);
          kept = now;
          // A range that is not there has an answer without words (RFC 9110, section 15.5.17).
          if (answer.status < 400 || answer.status === 416) return;
          expect(JSON.parse(text)).toEqual({ code: expect.any(String), message: expect.any(String) });
        }),
        { seed: SEED, numRuns: RUNS_A_ROUTE, endOnFailure: true },
      );
    },
  );

  it('leaves the school standing: its teacher goes on', async () => {
    expect((await owner('GET', '/account/sign-ins')).status).toBe(200);
    const made = await json<LessonDocument>(owner('POST', '/lessons', { title: 'After the storm' }));
    expect((await owner('GET', `/lessons/${made.id}`)).status).toBe(200);
  });
});
