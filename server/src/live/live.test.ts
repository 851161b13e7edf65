import {
  LIVE_ENDS,
  LIVE_KEY_HEADER,
  LIVE_NUMBER_BYTES,
  SHOWN,
  type LivePage,
  type LiveState,
  type ToShower,
} from '@kite-trail/core/contract/live';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { once } from 'node:events';
import { beforeAll, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { forgetLivePages } from './live-pages';
import { addFile, assetIdOf, json, messageOf, testSchool, type Caller } from '../testing';

const { school, call } = testSchool('mate@example.org', { isKeeper: true });
let lesson: LessonId;
let other: Caller;
let stranger: Caller;

beforeAll(async () => {
  lesson = (await json<LessonDocument>(call('POST', '/lessons', { title: 'Knots' }))).id;
  other = await school.server.signedIn('other@example.org');
  stranger = school.server.caller();
});

const begin = (id = lesson) => json<LivePage>(call('POST', `/lessons/${id}/live`));
const address = (path: string) => `ws://localhost:${school.server.port}/api/followed/${path}`;

/** A socket with what has come by it. */
async function opened(path: string, origin?: string) {
  const socket = new WebSocket(address(path), origin === undefined ? {} : { origin });
  const told: (LiveState & ToShower)[] = [];
  const shown: string[] = [];
  socket.on('message', (data: Buffer, isBinary: boolean) => {
    if (isBinary) shown.push(data.subarray(LIVE_NUMBER_BYTES).toString());
    else told.push(JSON.parse(data.toString()) as LiveState & ToShower);
  });
  const closed = once(socket, 'close').then(([code]) => code as number);
  await once(socket, 'open');
  return { socket, told, shown, closed };
}

async function showing(page: LivePage) {
  const shower = await opened(`${page.token}/show`);
  shower.socket.send(page.key);
  await expect.poll(() => shower.told.length).toBeGreaterThan(0);
  const say = (kind: number, text: string) => shower.socket.send(Buffer.concat([Buffer.of(kind), Buffer.from(text)]));
  return { ...shower, say };
}

const refused = async (path: string, origin?: string): Promise<string> => {
  const socket = new WebSocket(address(path), origin === undefined ? {} : { origin });
  const [error] = (await once(socket, 'error')) as [Error];
  return error.message;
};

describe('a page that is shown live', () => {
  it('is followed by whoever has its code, from the beginning or late, and goes on after a break', async () => {
    const page = await begin();
    expect(page.code).toMatch(/^[2-9A-HJKMNP-Z]{6}$/);
    // A code is typed as it is read.
    const typed = `${page.code.slice(0, 3)} ${page.code.slice(3)}`.toLowerCase();
    const found = await json<{ token: string }>(stranger('GET', `/live/${encodeURIComponent(typed)}`));
    expect(found.token).toBe(page.token);

    const early = await opened(`${page.token}/follow`);
    const shower = await showing(page);
    shower.say(SHOWN.whole, 'page');
    shower.say(SHOWN.change, 'ink');
    await expect.poll(() => early.shown).toEqual(['page', 'ink']);
    const { run } = early.told.at(-1)!;
    early.socket.terminate();

    shower.say(SHOWN.change, 'more');
    const late = await opened(`${page.token}/follow`);
    await expect.poll(() => late.shown).toEqual(['page', 'ink', 'more']);
    const back = await opened(`${page.token}/follow?run=${run}&n=2`);
    await expect.poll(() => back.shown).toEqual(['more']);
    await expect.poll(() => shower.told.at(-1)!.followers).toBe(2);
    for (const one of [late, back, shower]) one.socket.terminate();
  });

  it('is shown by one window, and keeps its code from lesson to lesson until it is ended', async () => {
    const first = await begin();
    const shower = await showing(first);
    const follower = await opened(`${first.token}/follow`);
    const { id } = await json<LessonDocument>(call('POST', '/lessons', { title: 'Tides' }));
    const second = await begin(id);
    expect([second.code, second.token]).toEqual([first.code, first.token]);
    expect(second.key).not.toBe(first.key);
    const next = await showing(second);
    expect(await shower.closed).toBe(LIVE_ENDS.elsewhere);
    // A window that comes back with an old key shows nothing.
    const old = await opened(`${first.token}/show`);
    old.socket.send(first.key);
    expect(await old.closed).toBe(LIVE_ENDS.elsewhere);
    next.say(SHOWN.whole, 'tides');
    await expect.poll(() => follower.shown).toEqual(['tides']);
    next.socket.close();
    await expect.poll(() => follower.told.at(-1)!.isShown).toBe(false);

    expect((await call('DELETE', '/live')).status).toBe(204);
    expect(await follower.closed).toBe(LIVE_ENDS.over);
    const gone = await stranger('GET', `/live/${first.code}`);
    expect([gone.status, await messageOf(gone)]).toEqual([404, expect.stringMatching(/No page is shown/)]);
    expect(await refused(`${first.token}/follow`)).toMatch(/404/);
    expect((await begin()).token).not.toBe(first.token);
  });

  it('begins once, however many windows begin it at the same time', async () => {
    await call('DELETE', '/live');
    const pages = await Promise.all(Array.from({ length: 6 }, () => begin()));
    expect(new Set(pages.map(({ token }) => token)).size).toBe(1);
    expect(new Set(pages.map(({ key }) => key)).size).toBe(6);
  });

  it('goes without sockets, too', async () => {
    const { token, key } = await begin();
    const headers = { [LIVE_KEY_HEADER]: key };
    const say = (kind: number, text: string, more = headers) =>
      call('POST', `/followed/${token}/sights/${kind}`, Buffer.from(text), more);
    expect(await json<ToShower>(say(SHOWN.change, 'lost'))).toMatchObject({ wantsCheckpoint: true });
    await say(SHOWN.whole, 'page');

    const events = await fetch(`http://localhost:${school.server.port}/api/followed/${token}/events`);
    const reader = events.body!.pipeThrough(new TextDecoderStream()).getReader();
    let text = '';
    const until = async (wanted: string) => {
      while (!text.includes(wanted)) text += (await reader.read()).value;
    };
    await until(Buffer.concat([Buffer.of(0, 0, 0, 2), Buffer.from('page')]).toString('base64'));
    expect(await json<ToShower>(say(SHOWN.change, 'ink'))).toEqual({ followers: 1, wantsCheckpoint: false });
    await until(Buffer.concat([Buffer.of(0, 0, 0, 3), Buffer.from('ink')]).toString('base64'));

    expect((await say(9, 'no sight')).status).toBe(400);
    expect((await say(SHOWN.change, 'forged', { [LIVE_KEY_HEADER]: 'another-key' })).status).toBe(409);
    await begin();
    expect((await say(SHOWN.change, 'late')).status).toBe(409);
    await call('DELETE', '/live');
    await until(`{"end":${LIVE_ENDS.over}}`);
    expect((await say(SHOWN.change, 'later')).status).toBe(404);
  });

  it('lets followers see the files that were shown, and no others', async () => {
    const [shown, hidden] = [Buffer.from('%PDF-1.7 shown'), Buffer.from('%PDF-1.7 hidden')];
    await addFile(call, lesson, shown);
    await addFile(call, lesson, hidden);
    const { token, key } = await begin();
    const asset = assetIdOf(shown);
    const declare = (files: unknown, headers: Record<string, string>) =>
      call('POST', `/followed/${token}/files`, files, headers);
    const file = { asset, pageIndex: null };
    expect((await declare([file], {})).status).toBe(409);
    const nobodys = { asset: assetIdOf(Buffer.from('nobody’s')), pageIndex: null };
    expect(await json(declare([file, nobodys], { [LIVE_KEY_HEADER]: key }))).toEqual([nobodys]);
    expect(await json(declare([file], { [LIVE_KEY_HEADER]: key }))).toEqual([]);
    const got = await stranger('GET', `/followed/${token}/assets/${asset}`);
    expect(Buffer.from(await got.arrayBuffer()).equals(shown)).toBe(true);
    expect((await stranger('GET', `/followed/${token}/assets/${assetIdOf(hidden)}`)).status).toBe(404);
    expect((await stranger('GET', `/followed/${token}/assets/${nobodys.asset}`)).status).toBe(404);
    expect((await stranger('GET', `/followed/${token}/assets/${asset}/pages/0`)).status).toBe(404);
    expect((await stranger('GET', `/followed/${'A'.repeat(32)}/assets/${asset}`)).status).toBe(404);
    // Of another lesson, nothing of it is left.
    const { id } = await json<LessonDocument>(call('POST', '/lessons', { title: 'Tides' }));
    await begin(id);
    expect((await stranger('GET', `/followed/${token}/assets/${asset}`)).status).toBe(404);
  });

  it('is nobody’s who guesses, and no other site’s', async () => {
    const page = await begin();
    expect((await other('POST', `/lessons/${lesson}/live`)).status).toBe(404);
    // Another teacher ends what is theirs.
    expect((await other('DELETE', '/live')).status).toBe(204);
    expect((await stranger('GET', `/live/${page.code}`)).status).toBe(200);
    expect(await refused(`${'A'.repeat(32)}/follow`)).toMatch(/404/);
    expect(await refused(`${page.token}/else`)).toMatch(/404/);
    expect(await refused(`${page.token}/follow`, 'https://elsewhere.example')).toMatch(/403/);
    const forged = await opened(`${page.token}/show`);
    forged.socket.send('a-guess');
    expect(await forged.closed).toBe(LIVE_ENDS.elsewhere);
    expect((await stranger('GET', '/live/0O1IL')).status).toBe(400);
    for (let n = 0; n < 20; n++) await stranger('GET', '/live/AAAAAA');
    expect((await stranger('GET', '/live/AAAAAA')).status).toBe(429);
  });

  it('is over for a lesson in the bin, and when nobody has shown it for half a day', async () => {
    const { token } = await begin();
    await call('POST', '/binning', { lessons: [lesson], isBinned: true });
    expect(await refused(`${token}/follow`)).toMatch(/404/);
    await call('POST', '/binning', { lessons: [lesson], isBinned: false });
    const { db } = school.server;
    await forgetLivePages(db);
    expect(await db('live_pages')).toHaveLength(1);
    await db('live_pages').update({ shown_at: new Date(Date.now() - 13 * 3600 * 1000).toISOString() });
    await forgetLivePages(db);
    expect(await db('live_pages')).toEqual([]);
  });
});
