import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { MarkingTable } from '@kite-trail/core/contract/task';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Template } from '@kite-trail/core/contract/template';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SetUpCode } from './accounts/set-up';
import { allRoutes } from './app';
import { KEY_BYTES, Seal } from './drives/seal';
import type { SchoolAccounts } from './school-accounts/provider';
import type { LinkRow, TeacherRow } from './database/rows';
import {
  addFile,
  assetIdOf,
  classWithStudents,
  json,
  messageOf,
  part,
  startTestServer,
  usualTask,
  type Caller,
  type TestServer,
} from './testing';

const DRIVES = { all: [], seal: new Seal(Buffer.alloc(KEY_BYTES)) };

let server: TestServer;
let owner: Caller;
let other: Caller;
let stranger: Caller;
/** A student with work of their own, and one of the same class. */
let student: Caller;
let classmate: Caller;
let work: LessonId;
const params: Record<string, string> = {
  take: 'take-0001',
  n: '0',
  programme: '1',
  version: 'version-0001',
  id: 'x',
  question: 'q',
  mail: 'letter-to-nobody-here',
  drive: 'boats',
  sending: 'film-to-nobodys-drive',
};

beforeAll(async () => {
  server = await startTestServer({ drives: DRIVES });
  owner = await server.signedIn('owner@example.org', { isKeeper: true });
  other = await server.signedIn('other@example.org');
  stranger = server.caller();
  const lesson = await json<LessonDocument>(owner('POST', '/lessons', { title: 'Knots' }));
  params.lesson = lesson.id;
  const crew = await classWithStudents(server, owner, ['Ida', 'Ole']);
  [student, classmate] = crew.as;
  params.class = crew.id;
  params.student = crew.students[0].id;
  params.teacher = (await server.db<TeacherRow>('teachers').where({ email: 'owner@example.org' }).first())!.id;
  const pdf = Buffer.from('%PDF-1.7');
  await addFile(owner, lesson.id, pdf);
  params.asset = assetIdOf(pdf);
  const { page, pieces } = lesson.pages[0];
  const template = await json<Template>(
    owner('POST', `/lessons/${lesson.id}/templates`, { name: 'Squared', page, pieces }),
  );
  params.template = template.id;
  const task = { ...usualTask, isLive: true, schoolClass: crew.id };
  params.task = (await json<{ id: string }>(owner('POST', `/lessons/${lesson.id}/tasks`, task))).id;
  work = (await json<{ lesson: LessonId }>(student('POST', `/own-tasks/${params.task}/reply`))).lesson;
  await student('POST', `/lessons/${work}/takes`, { id: 'take-of-a-student', hasSound: true });
  await addFile(student, work, pdf);
  await student('POST', `/works/${work}/hand-in`, { saidAt: new Date().toISOString() });
  const { rows } = await json<MarkingTable>(owner('GET', `/tasks/${params.task}`));
  params.handIn = rows[0].reply!.handIn!.id;
  params.reply = rows[0].reply!.id;
  await owner('POST', `/hand-ins/${params.handIn}/giving-back`);
  params.page = page.id;
  await owner('POST', `/lessons/${lesson.id}/takes`, { id: params.take, hasSound: true });
  await owner('PUT', `/takes/${params.take}/parts/0`, part(48_000));
  await owner('POST', `/takes/${params.take}/end`, { parts: 1 });
  await owner('POST', `/lessons/${lesson.id}/publications/1`);
  const link = await server.db<LinkRow>('links').first();
  params.token = link!.token;
  params.publication = link!.publication_id;
});
afterAll(() => server.close());

const filledFor = (more: Record<string, string>) => (path: string) =>
  path.replace(/:(\w+)/g, (_, name: string) => more[name] ?? params[name]);
const filled = filledFor({});
const PUBLICATION = '/watch/:token/publications/:publication';
const everyRoute = allRoutes({ setUp: SetUpCode.make(), accounts: {} as SchoolAccounts, drives: DRIVES });
const isOfStudents = ({ right }: { right: string }) => /^a student$|student$|^the student’s task$/.test(right);
const guarded = everyRoute.filter((route) => /teacher|keeper|owner|writer/.test(route.right));
const ofStudents = everyRoute.filter(isOfStudents);
const isOfWriters = ({ right }: { right: string }) => /writer/.test(right);

describe('every route that asks for a right', () => {
  it('is known to this test', () => {
    expect(guarded.length).toBeGreaterThan(12);
    expect(ofStudents.length).toBeGreaterThan(6);
    const open = everyRoute.filter((route) => !guarded.includes(route) && !ofStudents.includes(route));
    expect(open.map((route) => `${route.method} ${route.path}`).sort()).toEqual([
      'delete /session',
      'get /asked/:code',
      'get /class-pages/:token',
      'get /followed/:token/assets/:asset',
      'get /followed/:token/assets/:asset/pages/:n',
      'get /followed/:token/events',
      'get /live/:code',
      'get /school-sign-in/back',
      'get /session',
      'get /watch/:token',
      'get /watch/:token/publications/:publication/assets/:asset',
      'get /watch/:token/publications/:publication/assets/:asset/pages/:n',
      'get /watch/:token/publications/:publication/captions',
      'get /watch/:token/publications/:publication/payload',
      'get /watch/:token/publications/:publication/picture',
      'get /watch/:token/publications/:publication/sound',
      'post /asked/:code/guests',
      'post /first-teacher',
      'post /followed/:token/files',
      'post /followed/:token/sights/:kind',
      'post /school-sign-in',
      'post /session',
      'post /student-session',
      'post /tickets/joining',
      'post /tickets/reading',
      'post /tickets/resetting',
      'post /watch/:token/passcode',
      'post /watch/:token/publications/:publication/questions',
      'post /watch/:token/publications/:publication/visits',
      'post /watch/:token/watched',
    ]);
  });

  it.each(guarded.map((route) => [route.method, route.path]))('refuses a stranger: %s %s', async (method, path) => {
    const response = await stranger(method.toUpperCase(), filled(path), method === 'get' ? undefined : {});
    expect(response.status).toBe(401);
    expect(await messageOf(response)).toMatch(/Sign in/);
  });

  const owned = guarded.filter(({ right }) => right !== 'a teacher' && right !== 'a writer');
  it.each(owned.map((route) => [route.method, route.path]))('refuses another teacher: %s %s', async (method, path) => {
    const response = await other(method.toUpperCase(), filled(path), method === 'get' ? undefined : {});
    expect(response.status).toBe(404);
    expect(server.noted.at(-1)?.event).toBe('not theirs');
  });

  it.each(ofStudents.map((route) => [route.method, route.path]))(
    'refuses a stranger, and a teacher, where it is a student’s: %s %s',
    async (method, path) => {
      for (const who of [stranger, owner]) {
        const response = await who(method.toUpperCase(), filled(path), method === 'get' ? undefined : {});
        expect(response.status).toBe(401);
        expect(await messageOf(response)).toMatch(/your own link/);
      }
    },
  );

  it.each(guarded.filter((route) => !isOfWriters(route)).map((route) => [route.method, route.path]))(
    'refuses a student where it is a teacher’s: %s %s',
    async (method, path) => {
      const response = await student(method.toUpperCase(), filled(path), method === 'get' ? undefined : {});
      expect(response.status).toBe(401);
    },
  );

  const works = () => filledFor({ lesson: work, take: 'take-of-a-student' });
  const ofTheirs = [...guarded.filter(isOfWriters), ...ofStudents].filter(
    ({ path, right }) => right !== 'a writer' && /:(lesson|take|handIn)/.test(path),
  );
  it.each(ofTheirs.map((route) => [route.method, route.path]))(
    'refuses a student of the same class what another one works on or got back: %s %s',
    async (method, path) => {
      const response = await classmate(method.toUpperCase(), works()(path), method === 'get' ? undefined : {});
      expect(response.status).toBe(404);
    },
  );

  it.each(guarded.filter(isOfWriters).map((route) => [route.method, route.path, route.right]))(
    'refuses a student what their teacher works on, and their teacher what they work on: %s %s',
    async (method, path, right) => {
      if (right === 'a writer') return;
      const body = method === 'get' ? undefined : {};
      expect((await student(method.toUpperCase(), filled(path), body)).status).toBe(404);
      expect((await owner(method.toUpperCase(), works()(path), body)).status).toBe(404);
    },
  );

  it('lets students in where the others were refused', async () => {
    for (const path of ['/lessons/:lesson', '/lessons/:lesson/picture', '/lessons/:lesson/assets/:asset']) {
      expect((await student('GET', works()(path))).status).toBe(200);
    }
    for (const path of ['/own-tasks', '/feedback/:handIn', '/feedback/:handIn/pages/:page/picture']) {
      expect((await student('GET', filled(path))).status).toBe(200);
    }
    // A task of the class is both’s; what the other one makes of it is not.
    expect((await classmate('POST', filled('/own-tasks/:task/reply'))).status).toBe(200);
  });

  it('lets no student have a file by its name alone', async () => {
    const secret = Buffer.from('%PDF-1.7 of a student');
    await addFile(student, work, secret);
    const asset = assetIdOf(secret);
    expect(await json(student('GET', `/uploads/${asset}`))).toMatchObject({ isHad: true });
    expect(await json(classmate('GET', `/uploads/${asset}`))).toMatchObject({ isHad: false });
    const { lesson: own } = await json<{ lesson: LessonId }>(classmate('POST', filled('/own-tasks/:task/reply')));
    const named = await classmate('POST', `/lessons/${own}/assets`, { asset, name: 'chart.pdf' });
    expect(named.status).toBe(409);
  });

  it('lists to a teacher only what is theirs', async () => {
    expect(await (await other('GET', '/lessons')).json()).toEqual([]);
    expect(await (await owner('GET', '/lessons')).json()).toHaveLength(1);
  });

  it('lets the owner in where the others were refused', async () => {
    for (const path of ['/lessons/:lesson', '/lessons/:lesson/picture', '/takes/:take/sound', '/takes/:take/marks']) {
      expect((await owner('GET', filled(path))).status).toBe(200);
    }
  });
});

describe('a watch link', () => {
  it('plays for anyone who has it, and for nobody who guesses', async () => {
    expect((await stranger('GET', filled('/watch/:token'))).status).toBe(200);
    expect((await stranger('GET', '/watch/AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA')).status).toBe(404);
    expect((await stranger('GET', '/watch/short')).status).toBe(404);
    expect((await stranger('GET', filled(`${PUBLICATION}/payload`))).status).toBe(200);
    expect(Buffer.from(params.token, 'base64url').length * 8).toBeGreaterThanOrEqual(128);
  });

  it('leads to nothing of another lesson', async () => {
    const { id } = await json<LessonDocument>(owner('POST', '/lessons', { title: 'Not shared' }));
    await owner('POST', `/lessons/${id}/takes`, { id: 'take-not-shared', hasSound: true });
    await owner('PUT', '/takes/take-not-shared/parts/0', part(48_000));
    await owner('POST', '/takes/take-not-shared/end', { parts: 1 });
    const { link } = await json<LessonDocument>(owner('POST', `/lessons/${id}/publications/1`));
    const elsewhere = filled(`${PUBLICATION}/payload`).replace(params.token, link!.token);
    expect((await stranger('GET', elsewhere)).status).toBe(404);
  });

  it('plays nothing once it is withdrawn, and a new one is another', async () => {
    expect((await owner('DELETE', filled('/lessons/:lesson/links/:token'))).status).toBe(200);
    for (const path of ['/watch/:token', `${PUBLICATION}/payload`, `${PUBLICATION}/sound`]) {
      const response = await stranger('GET', filled(path));
      expect(response.status).toBe(410);
      expect(await messageOf(response)).toMatch(/withdrawn/);
    }
    const renewed = await json<LessonDocument>(owner('POST', filled('/lessons/:lesson/publications/1')));
    expect(renewed.link!.token).not.toBe(params.token);
    const withdrawn = filled(`${PUBLICATION}/payload`).replace(params.token, renewed.link!.token);
    expect((await stranger('GET', withdrawn)).status).toBe(404);
  });
});

describe('requests from other sites', () => {
  it('are turned away when they would change something', async () => {
    const body = { title: 'Planted' };
    expect((await owner('POST', '/lessons', body, { 'x-kite-trail': '' })).status).toBe(403);
    expect((await owner('POST', '/lessons', body, { origin: 'https://elsewhere.example' })).status).toBe(403);
  });
});
