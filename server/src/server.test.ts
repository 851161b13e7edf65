import type { EditState } from '@kite-trail/core/contract/edition';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { Watch } from '@kite-trail/core/contract/watch';
import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import { InkPoints } from '@kite-trail/core/ink/points';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import type { Change, Mark } from '@kite-trail/core/lesson/mark';
import { newStroke } from '@kite-trail/core/lesson/piece';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CHUNK_BYTES, named, readAsset, storeAsset } from './assets/assets';
import {
  changesBody,
  json,
  messageOf,
  part,
  PASSWORD,
  startTestServer,
  trimBody,
  type Caller,
  type TestServer,
  isOnPostgres,
  uploaded,
} from './testing';

let server: TestServer;
let call: Caller;
beforeAll(async () => {
  server = await startTestServer();
  call = await server.signedIn('teacher@example.org');
});
afterAll(() => server.close());

const newLesson = (title = 'Tides') => json<LessonDocument>(call('POST', '/lessons', { title }));

const change = (lesson: LessonDocument, changes: Change[]) =>
  call('POST', `/lessons/${lesson.id}/changes`, changesBody(lesson, changes));

let count = 0;
async function recorded(lesson: LessonDocument, parts: Uint8Array[]): Promise<{ take: string; ended: LessonDocument }> {
  const take = `take-${String(++count).padStart(4, '0')}`;
  await call('POST', `/lessons/${lesson.id}/takes`, { id: take, hasSound: true });
  for (const [n, bytes] of parts.entries()) await call('PUT', `/takes/${take}/parts/${n}`, bytes);
  return { take, ended: await json(call('POST', `/takes/${take}/end`, { parts: parts.length })) };
}

describe('lessons', () => {
  it('begin with one squared page', async () => {
    const lesson = await newLesson();
    expect(lesson.pages).toHaveLength(1);
    expect(lesson.pages[0].page.paper.kind).toBe('squared');
  });

  it('are called what can be read of their names, whatever the database can keep', async () => {
    const { id, title } = await newLesson('\0Kno\0ts ');
    expect(title).toBe('Knots');
    expect((await call('PUT', `/lessons/${id}/name`, { title: 'Be\0nds' })).status).toBe(204);
    expect((await json<LessonDocument>(call('GET', `/lessons/${id}`))).title).toBe('Bends');
  });

  it('need a name', async () => {
    const response = await call('POST', '/lessons', { title: '  ' });
    expect(response.status).toBe(400);
    expect(await messageOf(response)).toMatch(/Give the lesson a name/);
  });
});

describe('a take', () => {
  it('keeps its parts once, however often and in whatever order they come', async () => {
    const lesson = await newLesson();
    await call('POST', `/lessons/${lesson.id}/takes`, { id: 'take-repeat', hasSound: true });
    for (const n of [1, 0, 1, 0]) {
      expect((await call('PUT', `/takes/take-repeat/parts/${n}`, part((n + 1) * 48_000))).status).toBe(204);
    }
    expect((await call('PUT', '/takes/take-repeat/parts/0', part(7))).status).toBe(409);
    expect(await json(call('GET', '/takes/take-repeat/parts'))).toEqual({ parts: [0, 1] });
    const ended = await json<LessonDocument>(call('POST', '/takes/take-repeat/end', { parts: 2 }));
    expect(ended.takes[0].lengthSamples).toBe(96_000);
    expect(ended.edition.programme).toEqual([
      { kind: 'play', take: 'take-repeat', fromSamples: 0, toSamples: 96_000, pace: 1 },
    ]);
    const again = await json<LessonDocument>(call('POST', '/takes/take-repeat/end', { parts: 2 }));
    expect(again.edition.programme).toEqual(ended.edition.programme);
  });

  it('does not end while parts are missing, unless it is recovered with what arrived', async () => {
    const lesson = await newLesson();
    await call('POST', `/lessons/${lesson.id}/takes`, { id: 'take-broken', hasSound: true });
    const page = lesson.pages[0].page.id;
    const unfinished: Mark[] = [
      {
        kind: 'ink',
        atSamples: 30_000,
        page: page as PageId,
        stroke: newStroke({
          id: 'piece-wet' as PieceId,
          z: 1,
          pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 },
          points: InkPoints.from([{ xPt: 1, yPt: 1, pressure: 0.5, sinceMs: 0 }]),
        }),
      },
    ];
    await call('PUT', '/takes/take-broken/parts/0', part(48_000, { unfinished }));
    await call('PUT', '/takes/take-broken/parts/2', part(144_000));
    expect((await call('POST', '/takes/take-broken/end', { parts: 3 })).status).toBe(409);
    const ended = await json<LessonDocument>(call('POST', '/takes/take-broken/end', { parts: 3, recover: true }));
    expect(ended.takes[0].lengthSamples).toBe(48_000);
    const marks = decodeMarks(new Uint8Array(await (await call('GET', '/takes/take-broken/marks')).arrayBuffer()));
    expect(marks).toEqual(unfinished);
  });

  it('serves its sound by byte range', async () => {
    const lesson = await newLesson();
    const { take } = await recorded(lesson, [part(100), part(200), part(250)]);
    const ranged = await call('GET', `/takes/${take}/sound`, undefined, { range: 'bytes=1-' });
    expect(ranged.status).toBe(206);
    expect(ranged.headers.get('content-range')).toBe('bytes 1-2/3');
    expect([...new Uint8Array(await ranged.arrayBuffer())]).toEqual([200, 250]);
    const beyond = await call('GET', `/takes/${take}/sound`, undefined, { range: 'bytes=9-' });
    expect(beyond.status).toBe(416);
    // RFC 9110, section 13.1.5: of other bytes than those that are known, a part is of no use.
    const of = (etag: string) =>
      call('GET', `/takes/${take}/sound`, undefined, { range: 'bytes=1-', 'if-range': etag });
    expect((await of(ranged.headers.get('etag')!)).status).toBe(206);
    expect((await of('"other"')).status).toBe(200);
  });

  it('refuses a part that is not one', async () => {
    const lesson = await newLesson();
    await call('POST', `/lessons/${lesson.id}/takes`, { id: 'take-damaged', hasSound: true });
    expect((await call('PUT', '/takes/take-damaged/parts/0', Uint8Array.of(5, 250))).status).toBe(400);
    expect(await json(call('GET', '/takes/take-damaged/parts'))).toEqual({ parts: [] });
  });
});

// SQLite alone lets a test say how large its file may grow.
describe.skipIf(isOnPostgres)('a full disk', () => {
  it('refuses a part with a message, keeps what it had, and takes the part when there is room again', async () => {
    const lesson = await newLesson();
    const take = 'take-full-disk';
    await call('POST', `/lessons/${lesson.id}/takes`, { id: take, hasSound: true });
    await call('PUT', `/takes/${take}/parts/0`, part(100));
    const large = part(200, { sound: new Uint8Array(400_000) });
    const [{ page_count: pages }] = await server.db.raw<{ page_count: number }[]>('PRAGMA page_count');
    await server.db.raw(`PRAGMA max_page_count = ${pages + 4}`);
    const refused = await call('PUT', `/takes/${take}/parts/1`, large);
    expect(refused.status).toBe(507);
    expect(await messageOf(refused)).toMatch(/out of room/);
    expect(await json(call('GET', `/takes/${take}/parts`))).toEqual({ parts: [0] });
    await server.db.raw('PRAGMA max_page_count = 1000000');
    expect((await call('PUT', `/takes/${take}/parts/1`, large)).ok).toBe(true);
    expect((await call('POST', `/takes/${take}/end`, { parts: 2 })).ok).toBe(true);
  });
});

const bytesOf = async (answer: Promise<Response>) => new Uint8Array(await (await answer).arrayBuffer());

describe('publishing', () => {
  it('says when the link is older than the programme', async () => {
    const { ended: lesson } = await recorded(await newLesson(), [part(480_000)]);
    const shared = await json<LessonDocument>(call('POST', `/lessons/${lesson.id}/publications/1`));
    expect(shared.link?.upToDate).toBe(true);
    const edited = await json<EditState>(call('PUT', `/lessons/${lesson.id}/edition`, trimBody(lesson, 0, 96_000)));
    expect(edited.link).toEqual({ token: shared.link!.token, upToDate: false });
    expect((await call('POST', `/lessons/${lesson.id}/publications/1`)).status).toBe(409);
    const watched = await json<{ lengthSamples: number }>(call('GET', `/watch/${shared.link!.token}`));
    expect(watched.lengthSamples).toBe(480_000);
  });

  it('goes on with what they began for those who watch, and shows what is shared now to whoever comes', async () => {
    const { ended: lesson } = await recorded(await newLesson(), [part(480_000)]);
    const { token } = (await json<LessonDocument>(call('POST', `/lessons/${lesson.id}/publications/1`))).link!;
    const about = () => json<Watch>(call('GET', `/watch/${token}`));
    const payload = async ({ publication }: Watch) =>
      call('GET', `/watch/${token}/publications/${publication}/payload`);
    const [began, first] = [await about(), await bytesOf(payload(await about()))];
    await call('PUT', `/lessons/${lesson.id}/edition`, trimBody(lesson, 0, 96_000));
    await call('POST', `/lessons/${lesson.id}/publications/2`);
    expect(await bytesOf(payload(began))).toEqual(first);
    const now = await about();
    expect(now.lengthSamples).toBe(96_000);
    expect(await bytesOf(payload(now))).not.toEqual(first);
    expect((await payload(now)).headers.get('cache-control')).toMatch(/immutable/);
  });

  it('takes only MP4 sound, and only of something recorded', async () => {
    const { ended: lesson } = await recorded(await newLesson(), [part(4800)]);
    const sound = await uploaded(call, Buffer.from('RIFF not this'));
    const bad = await call('POST', `/lessons/${lesson.id}/publications/1`, { sound });
    expect(bad.status).toBe(400);
    const empty = await newLesson();
    expect((await call('POST', `/lessons/${empty.id}/publications/0`)).status).toBe(400);
  });
});

describe('assets', () => {
  it('come back as they were stored, across chunks, and are stored once', async () => {
    const bytes = Uint8Array.from({ length: 2 * CHUNK_BYTES + 11 }, (_, i) => (i * 31) % 251);
    const id = await storeAsset(server.db, 'audio/ogg', named(bytes));
    expect(await storeAsset(server.db, 'audio/ogg', named(bytes))).toBe(id);
    expect(new Uint8Array(await readAsset(server.db, id))).toEqual(bytes);
    const chunks = await server.db('asset_chunks').where({ asset_id: id });
    expect(chunks).toHaveLength(3);
  });
});

describe('accounts', () => {
  it('ask for the first teacher only once, and keep an argon2id hash', async () => {
    const fresh = await startTestServer();
    const someone = fresh.caller();
    expect(await json(someone('GET', '/session'))).toEqual({
      needsFirstTeacher: true,
      schoolAccounts: null,
      teacher: null,
      student: null,
    });
    const account = { code: fresh.setUpCode, name: 'Ada', email: 'Ada@Example.org', password: PASSWORD };
    expect((await someone('POST', '/first-teacher', { ...account, password: 'short' })).status).toBe(400);
    expect((await someone('POST', '/first-teacher', account)).status).toBe(200);
    expect((await fresh.caller()('POST', '/first-teacher', account)).status).toBe(409);
    expect((await fresh.db('teachers').first()).password_hash).toMatch(/^\$argon2id\$/);
    expect((await json<{ teacher: { email: string } }>(someone('GET', '/session'))).teacher.email).toBe(
      'ada@example.org',
    );
    await someone('DELETE', '/session');
    expect((await someone('GET', '/lessons')).status).toBe(401);
    await fresh.close();
  });

  it('set an HttpOnly, SameSite cookie and slow down guessing', async () => {
    const fresh = await startTestServer();
    await fresh.signedIn('known@example.org');
    const guess = (password: string) => fresh.caller()('POST', '/session', { email: 'known@example.org', password });
    const cookie = (await guess(PASSWORD)).headers.getSetCookie()[0];
    expect(cookie).toMatch(/HttpOnly/);
    expect(cookie).toMatch(/SameSite=Lax/);
    const statuses: number[] = [];
    for (let i = 0; i < 6; i++) statuses.push((await guess('wrong-password')).status);
    expect(statuses).toEqual([401, 401, 401, 401, 401, 429]);
    await fresh.close();
  });

  it('are behind a content security policy without inline scripts', async () => {
    const policy = (await call('GET', '/session')).headers.get('content-security-policy')!;
    expect(policy).toMatch(/script-src 'self' 'wasm-unsafe-eval'(;|$)/);
  });
});

describe('what a teacher changes between takes', () => {
  it('is kept, and is part of the next take from then on', async () => {
    const { ended: lesson } = await recorded(await newLesson(), [part(48_000)]);
    const turn: Change = { kind: 'turn', page: lesson.pages[0].page.id };
    expect((await change(lesson, [turn])).status).toBe(200);
    const changed = await json<LessonDocument>(call('GET', `/lessons/${lesson.id}`));
    expect(decodeMarks(Buffer.from(changed.between, 'base64'))).toEqual([{ ...turn, atSamples: 0 }]);
    const { ended } = await recorded(changed, [part(48_000)]);
    expect(decodeMarks(Buffer.from(ended.between, 'base64'))).toEqual([]);
  });
});
