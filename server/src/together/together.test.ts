import type { TeacherName } from '@kite-trail/core/contract/account';
import type { SchoolClass } from '@kite-trail/core/contract/class';
import type { LessonDocument, LessonSummary } from '@kite-trail/core/contract/lesson';
import { USUAL_LINK, type Link } from '@kite-trail/core/contract/link';
import type { Found } from '@kite-trail/core/contract/search';
import type { Together } from '@kite-trail/core/contract/together';
import { decodeHistory } from '@kite-trail/core/formats/history-coding';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import type { Change } from '@kite-trail/core/lesson/mark';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { LinkRow, TeacherRow } from '../database/rows';
import {
  changesBody,
  json,
  part,
  PASSWORD,
  sharedLesson,
  startTestServer,
  type Caller,
  type TestServer,
} from '../testing';

let server: TestServer;
/** Whose the lesson is; who works on it with them; and who does not. */
let owner: Caller;
let mate: Caller;
let other: Caller;
const ids: Record<string, string> = {};
let lesson: LessonDocument;
let lessons = 0;

beforeAll(async () => {
  server = await startTestServer();
  owner = await server.signedIn('owner@example.org', { isKeeper: true });
  mate = await server.signedIn('mate@example.org');
  other = await server.signedIn('other@example.org');
  for (const { id, name } of await json<TeacherName[]>(owner('GET', '/colleagues'))) ids[name] = id;
  ids.owner = (await server.db<TeacherRow>('teachers').where({ email: 'owner@example.org' }).first())!.id;
});
afterAll(() => server.close());
const workWith = (...names: string[]) =>
  owner('PUT', `/lessons/${lesson.id}/colleagues`, { colleagues: names.map((name) => ids[name]) });
beforeEach(async () => {
  lesson = await sharedLesson(
    owner,
    { title: `Anchoring ${lessons}` },
    { take: `take-together-${lessons++}`, seconds: 4 },
  );
  await workWith('mate@example.org');
});

const listed = async (who: Caller) =>
  (await json<LessonSummary[]>(who('GET', '/lessons'))).find(({ id }) => id === lesson.id);
const read = (who: Caller) => json<LessonDocument>(who('GET', `/lessons/${lesson.id}`));
const page = (id: string): Change => ({
  kind: 'add-page',
  page: { ...lesson.pages[0].page, id: id as PageId },
  after: lesson.pages[0].page.id,
});

describe('a colleague who works on a lesson', () => {
  it('sees it among theirs, with whose it is, and finds it', async () => {
    expect(await listed(mate)).toMatchObject({ owner: 'owner@example.org', colleagues: [] });
    expect(await listed(owner)).toMatchObject({ owner: null, colleagues: ['mate@example.org'] });
    expect(await listed(other)).toBeUndefined();
    const found = await json<Found>(mate('GET', `/search?for=${encodeURIComponent(lesson.title)}`));
    expect(found.lessons.map(({ id }) => id)).toContain(lesson.id);
    expect(await json<Together>(mate('GET', `/lessons/${lesson.id}/colleagues`))).toEqual({
      owner: { id: ids.owner, name: 'owner@example.org' },
      colleagues: [{ id: ids['mate@example.org'], name: 'mate@example.org' }],
    });
  });

  it('writes, records, edits and shares it; all of it is there for its owner', async () => {
    expect(
      (await mate('POST', `/lessons/${lesson.id}/changes`, changesBody(lesson, [page('page-of-a-mate')]))).status,
    ).toBe(200);
    const take = `take-of-a-mate-${lessons}`;
    await mate('POST', `/lessons/${lesson.id}/takes`, { id: take, hasSound: true });
    await mate('PUT', `/takes/${take}/parts/0`, part(48_000));
    expect((await mate('POST', `/takes/${take}/end`, { parts: 1 })).status).toBe(200);
    const { edit, takes } = await read(owner);
    expect(takes.map(({ id }) => id)).toContain(take);
    expect((await mate('POST', `/lessons/${lesson.id}/publications/${edit.n}`)).status).toBe(200);
    expect((await read(owner)).link!.upToDate).toBe(true);
    expect((await mate('PUT', `/lessons/${lesson.id}/name`, { title: 'Anchoring well' })).status).toBe(204);
    expect((await read(owner)).title).toBe('Anchoring well');
  });

  it('sees it no more among theirs once its owner has put it away, and again when it is back', async () => {
    await owner('POST', '/binning', { lessons: [lesson.id], isBinned: true });
    expect([await listed(mate), (await listed(owner))!.binnedAt]).toEqual([undefined, expect.any(String)]);
    await owner('POST', '/binning', { lessons: [lesson.id], isBinned: false });
    expect(await listed(mate)).toBeDefined();
  });

  it('undoes nothing that somebody else has done', async () => {
    const lift = { kind: 'lift' as const, page: lesson.pages[0].page.id, pieceIds: ['piece-one' as PieceId] };
    const history = { undo: [[lift]], redo: [] };
    await mate('POST', `/lessons/${lesson.id}/changes`, changesBody(lesson, [page('page-undone')], history));
    expect(decodeHistory(Buffer.from((await read(mate)).history, 'base64'))).toEqual(history);
    expect((await read(owner)).history).toBe('');
  });

  it('puts it into classes and favourites of their own, and shares it with a class of theirs', async () => {
    const { id: crew } = await json<{ id: string }>(mate('POST', '/classes', { name: 'Crew', color: 'sea' }));
    expect((await mate('POST', '/placing', { lessons: [lesson.id], from: null, to: crew, before: null })).status).toBe(
      204,
    );
    await mate('POST', '/favourites', { lessons: [lesson.id], isFavourite: true });
    expect((await listed(mate))!.isFavourite).toBe(true);
    expect((await listed(owner))!.isFavourite).toBe(false);
    const link = { settings: { ...USUAL_LINK, schoolClass: crew }, part: null, awaitsPasscode: false };
    const { made } = await json<{ made: string }>(mate('POST', `/lessons/${lesson.id}/links`, link));
    // Its owner changes the link's name, and leaves it with a class that is not theirs; but gives no other link to it.
    const renamed = { settings: { ...link.settings, name: 'For the crew' } };
    expect((await owner('PUT', `/lessons/${lesson.id}/links/${made}`, renamed)).status).toBe(200);
    expect((await owner('PUT', `/lessons/${lesson.id}/links/${lesson.link!.token}`, renamed)).status).toBe(404);

    await workWith();
    const [own] = await json<SchoolClass[]>(mate('GET', '/classes'));
    expect(own.lessons).toEqual([]);
    expect((await server.db<LinkRow>('links').where({ token: made }).first())!.class_id).toBeNull();
    expect((await json<Link[]>(owner('GET', `/lessons/${lesson.id}/links`))).map(({ state }) => state)).toEqual([
      'live',
      'live',
    ]);
  });

  it('takes a copy that is their own', async () => {
    const copy = await json<LessonDocument>(mate('POST', `/lessons/${lesson.id}/duplicate`));
    const from = await json<LessonDocument>(mate('POST', `/lessons/${lesson.id}/copy`));
    for (const { id } of [copy, from]) {
      expect((await owner('GET', `/lessons/${id}`)).status).toBe(404);
      expect((await mate('GET', `/lessons/${id}`)).status).toBe(200);
    }
  });

  it('neither puts it away, nor deletes it, nor gives it to anybody', async () => {
    const { id } = lesson;
    const refused = [
      await mate('POST', '/binning', { lessons: [id], isBinned: true }),
      await mate('DELETE', `/lessons/${id}`),
      await mate('POST', '/handing', { lessons: [id], to: ids['other@example.org'] }),
      await mate('PUT', `/lessons/${id}/colleagues`, { colleagues: [ids['other@example.org']] }),
    ];
    expect(refused.map(({ status }) => status)).toEqual([404, 404, 404, 404]);
    expect((await read(owner)).isBinned).toBe(false);
    expect((await other('GET', `/lessons/${id}`)).status).toBe(404);
  });

  it('leaves, or is let go, and reaches nothing of it any more', async () => {
    const paths = [`/lessons/${lesson.id}`, `/lessons/${lesson.id}/links`, `/takes/${lesson.takes[0].id}/sound`];
    const statuses = () => Promise.all(paths.map(async (path) => (await mate('GET', path)).status));
    expect(await statuses()).toEqual([200, 200, 200]);
    expect((await mate('DELETE', `/lessons/${lesson.id}/colleagues/me`)).status).toBe(204);
    expect(await statuses()).toEqual([404, 404, 404]);
    await workWith('mate@example.org');
    expect(await statuses()).toEqual([200, 200, 200]);
    await workWith('other@example.org');
    expect(await statuses()).toEqual([404, 404, 404]);
  });
});

describe('its owner', () => {
  it('works with teachers of the school alone, and is no colleague of their own', async () => {
    for (const colleagues of [['nobody-at-all'], [ids.owner]])
      expect((await owner('PUT', `/lessons/${lesson.id}/colleagues`, { colleagues })).status).toBe(404);
    expect((await owner('DELETE', `/lessons/${lesson.id}/colleagues/me`)).status).toBe(404);
    const many = Array.from({ length: 21 }, (_, i) => `colleague-${i}`);
    expect((await owner('PUT', `/lessons/${lesson.id}/colleagues`, { colleagues: many })).status).toBe(400);
  });

  it('keeps a colleague who is shut out meanwhile, but takes in nobody who is', async () => {
    const shutOut = (name: string, at: string | null) =>
      server.db('teachers').where({ id: ids[name] }).update({ shut_out_at: at });
    await shutOut('mate@example.org', new Date().toISOString());
    await shutOut('other@example.org', new Date().toISOString());
    expect((await workWith('mate@example.org')).status).toBe(200);
    expect((await workWith('mate@example.org', 'other@example.org')).status).toBe(404);
    await shutOut('mate@example.org', null);
    await shutOut('other@example.org', null);
    expect((await mate('GET', `/lessons/${lesson.id}`)).status).toBe(200);
  });

  it('hands it over to one of them, who is its owner then; the others go on', async () => {
    await workWith('mate@example.org', 'other@example.org');
    await owner('POST', '/handing', { lessons: [lesson.id], to: ids['mate@example.org'] });
    expect(await listed(mate)).toMatchObject({ owner: null, colleagues: ['other@example.org'] });
    expect(await listed(other)).toMatchObject({ owner: 'mate@example.org' });
    expect(await listed(owner)).toBeUndefined();
  });

  it('who deletes their account leaves it to the colleague who has worked on it longest', async () => {
    const leaving = await server.signedIn(`leaving-${lessons}@example.org`);
    const shared = await sharedLesson(leaving, { title: 'Reefing' }, { take: 'take-left-behind', seconds: 3 });
    const colleagues = [ids['other@example.org']];
    await leaving('PUT', `/lessons/${shared.id}/colleagues`, { colleagues });
    await leaving('PUT', `/lessons/${shared.id}/colleagues`, { colleagues: [...colleagues, ids['mate@example.org']] });
    expect((await leaving('POST', '/account/deletion', { password: PASSWORD })).status).toBe(204);
    lesson = shared;
    expect(await listed(other)).toMatchObject({ owner: null, colleagues: ['mate@example.org'] });
    expect((await other('GET', `/takes/take-left-behind/sound`)).status).toBe(200);
  });
});
