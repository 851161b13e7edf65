import type { Link } from '@kite-trail/core/contract/link';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { Mails } from '@kite-trail/core/contract/mail';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import type { MailRow } from '../database/rows';
import { json, messageOf, sharedLesson, startTestServer, type Caller, type TestServer } from '../testing';
import { Delivery } from './delivery';
import { PostProblem, type Letter } from './post';
import { forgetMails } from './queue';

const MINUTE_MS = 60_000;
const DAY_MS = 24 * 60 * MINUTE_MS;

let server: TestServer;
let call: Caller;
let lesson: LessonDocument;
let link: string;
/** What the mail server has taken, and what it does with the next letters. */
let taken: Letter[] = [];
let fate: (letter: Letter) => void | Promise<void>;
const post = {
  send: async (letter: Letter) => {
    await fate(letter);
    taken.push(letter);
  },
};
const refuse = (message: string, concerns: PostProblem['concerns']) => () => {
  throw new PostProblem(message, concerns);
};

beforeAll(async () => {
  server = await startTestServer({ post });
  call = await server.signedIn('mate@example.org');
});
afterAll(() => server.close());
let lessons = 0;
beforeEach(async () => {
  await server.db('mails').delete();
  [taken, fate] = [[], () => {}];
  lesson = await sharedLesson(call, { title: 'Tides' }, { take: `take-of-tides-${lessons++}`, seconds: 130 });
  link = lesson.link!.token;
});
afterEach(() => vi.useRealTimers());

const send = (to: string[], note = '', by = call) =>
  by('POST', `/lessons/${lesson.id}/links/${link}/mails`, { to, note });
const listed = async () => (await json<Mails>(call('GET', `/lessons/${lesson.id}/mails`))).mails;
/** Lets time pass, and the letters that are due then be tried. */
async function later(ms: number) {
  vi.useFakeTimers({ toFake: ['Date'], now: Date.now() + ms });
  await server.delivery!.wake();
}

describe('a link sent by mail', () => {
  it('goes to each by themselves, with a note, and is listed as sent', async () => {
    const answer = await send(['anna@harbour.example', 'Ben@harbour.example', 'ben@harbour.example'], 'For Monday.');
    expect(answer.status).toBe(200);
    await server.delivery!.wake();
    expect(taken.map(({ to }) => to).sort()).toEqual(['anna@harbour.example', 'ben@harbour.example']);
    const [{ subject, text, fromName, replyTo, messageId, mail }] = taken;
    expect([subject, fromName, replyTo]).toEqual(['Tides', 'mate@example.org', 'mate@example.org']);
    expect(text).toContain('For Monday.');
    expect(text).toContain(`http://localhost:${server.port}/w/${link}`);
    expect(text).toContain('2 minutes');
    expect(messageId).toBe(`<${mail}@localhost>`);
    expect((await listed()).map(({ state, why, nextTryAt }) => [state, why, nextTryAt])).toEqual([
      ['sent', null, null],
      ['sent', null, null],
    ]);
  });

  it('says that a passcode is asked for, and until when it can be watched, but not the passcode', async () => {
    const [{ settings }] = await json<Link[]>(call('GET', `/lessons/${lesson.id}/links`));
    const endsAt = new Date(Date.now() + DAY_MS).toISOString();
    await call('PUT', `/lessons/${lesson.id}/links/${link}`, { settings: { ...settings, endsAt } });
    await call('PUT', `/lessons/${lesson.id}/links/${link}/passcode`, { passcode: 'lee-shore' });
    await send(['anna@harbour.example']);
    await server.delivery!.wake();
    expect(taken[0].text).toMatch(/asks for a passcode/);
    expect(taken[0].text).toMatch(/can be watched until .* UTC/);
    expect(JSON.stringify(taken)).not.toContain('lee-shore');
  });

  it.each([
    ['nobody', [], 'Write at least one address.'],
    ['what is none', ['no address'], 'An address is written like anna@school.example'],
    [
      'two heads in one',
      ['anna@harbour.example\r\nBcc: all@harbour.example'],
      'An address is written like anna@school.example',
    ],
    ['51', Array.from({ length: 51 }, (_, i) => `a${i}@harbour.example`), 'Send to at most 50 addresses at once.'],
  ])('to %s is refused with a reason', async (_name, to, why) => {
    const refused = await send(to);
    expect(refused.status).toBe(400);
    expect(await messageOf(refused)).toContain(why);
    expect(await listed()).toEqual([]);
  });

  it('is not sent once the link is withdrawn, also where it waited already', async () => {
    fate = refuse('Busy.', 'later');
    await send(['anna@harbour.example']);
    await server.delivery!.wake();
    await call('DELETE', `/lessons/${lesson.id}/links/${link}`);
    fate = () => {};
    await later(DAY_MS);
    expect(taken).toEqual([]);
    expect(await listed()).toMatchObject([{ state: 'refused', why: 'The link led nowhere any more.' }]);
    expect(await messageOf(await send(['anna@harbour.example']))).toMatch(/leads nowhere/);
  });

  it('goes to 400 addresses in a day, and to no more', async () => {
    const fifty = (n: number) => Array.from({ length: 50 }, (_, i) => `a${n}-${i}@harbour.example`);
    for (let n = 0; n < 8; n++) expect((await send(fifty(n))).status).toBe(200);
    expect((await send(['one@harbour.example'])).status).toBe(429);
    await server.delivery!.wake();
    expect(taken).toHaveLength(400);
  });
});

describe('a letter that is not taken', () => {
  it('for good is told, and not tried again', async () => {
    fate = refuse('The mailbox is full.', 'letter');
    await send(['full@harbour.example']);
    await server.delivery!.wake();
    fate = () => {};
    await later(DAY_MS);
    expect(taken).toEqual([]);
    expect(await listed()).toMatchObject([{ state: 'refused', why: 'The mailbox is full.', nextTryAt: null }]);
  });

  it('waits longer each time, is told, and goes once it is taken', async () => {
    fate = refuse('Busy.', 'later');
    await send(['anna@harbour.example']);
    await server.delivery!.wake();
    const [first] = await listed();
    expect([first.state, first.why]).toEqual(['waiting', 'Busy.']);
    await later(2 * MINUTE_MS);
    const waitMs = async () => Date.parse((await listed())[0].nextTryAt!) - Date.now();
    expect(await waitMs()).toBeGreaterThan(MINUTE_MS);
    fate = () => {};
    await later(3 * MINUTE_MS);
    expect(taken).toHaveLength(1);
    expect((await listed())[0]).toMatchObject({ state: 'sent', why: null });
  });

  it('for four days is given up, and told', async () => {
    fate = refuse('Busy.', 'later');
    await send(['anna@harbour.example']);
    await server.delivery!.wake();
    await later(5 * DAY_MS);
    expect((await listed())[0]).toMatchObject({ state: 'refused', why: 'Busy.' });
  });

  it('because there is no mail server waits with all others, which are not tried one by one', async () => {
    let tries = 0;
    fate = () => {
      tries++;
      throw new PostProblem('The school’s mail server cannot be reached.', 'all');
    };
    await send(['anna@harbour.example', 'ben@harbour.example', 'cleo@harbour.example']);
    await server.delivery!.wake();
    expect(tries).toBe(1);
    const waiting = await listed();
    expect(waiting.map(({ state }) => state)).toEqual(['waiting', 'waiting', 'waiting']);
    expect(new Set(waiting.map(({ why }) => why))).toEqual(new Set(['The school’s mail server cannot be reached.']));
    fate = () => {};
    await later(2 * MINUTE_MS);
    expect(taken).toHaveLength(3);
  });

  it('because the server was killed while it was sent is sent when it is back, under the same name', async () => {
    const names: string[] = [];
    let end = () => {};
    const killed = new Promise<void>((resolve) => (end = resolve));
    fate = ({ messageId }) => {
      names.push(messageId);
      return killed;
    };
    await send(['anna@harbour.example']);
    await expect.poll(() => names).toHaveLength(1);
    fate = ({ messageId }) => void names.push(messageId);
    vi.useFakeTimers({ toFake: ['Date'], now: Date.now() + 6 * MINUTE_MS });
    const restarted = new Delivery(server.db, post, { warn() {}, error() {} } as never);
    await restarted.wake();
    await restarted.close();
    expect(new Set(names).size).toBe(1);
    expect(names).toHaveLength(2);
    expect((await listed())[0].state).toBe('sent');
    end();
  });
});

describe('the list of letters', () => {
  it('is its teacher’s alone, who can take one out of the queue', async () => {
    fate = refuse('Busy.', 'later');
    await send(['anna@harbour.example']);
    await server.delivery!.wake();
    const [{ id }] = await listed();
    const other = await server.signedIn(`other-${lessons}@example.org`);
    expect((await other('GET', `/lessons/${lesson.id}/mails`)).status).toBe(404);
    expect((await other('DELETE', `/lessons/${lesson.id}/mails/${id}`)).status).toBe(404);
    expect((await send(['ben@harbour.example'], '', other)).status).toBe(404);
    const elsewhere = await json<LessonDocument>(call('POST', '/lessons', { title: 'Knots' }));
    expect((await call('DELETE', `/lessons/${elsewhere.id}/mails/${id}`)).status).toBe(404);
    expect((await json<Mails>(call('DELETE', `/lessons/${lesson.id}/mails/${id}`))).mails).toEqual([]);
    fate = () => {};
    await later(DAY_MS);
    expect(taken).toEqual([]);
  });

  it('forgets after a month to whom something was sent', async () => {
    await send(['anna@harbour.example']);
    await server.delivery!.wake();
    expect(await forgetMails(server.db)).toBe(0);
    const past = new Date(Date.now() - 31 * DAY_MS).toISOString();
    await server.db<MailRow>('mails').update({ done_at: past });
    expect(await forgetMails(server.db)).toBe(1);
  });
});

describe('a school without a mail server', () => {
  it('says so', async () => {
    const without = await startTestServer();
    const teacher = await without.signedIn('mate@example.org');
    const shared = await sharedLesson(teacher, { title: 'Tides' }, { take: 'take-of-tides', seconds: 2 });
    expect(await json<Mails>(teacher('GET', `/lessons/${shared.id}/mails`))).toEqual({ isSetUp: false, mails: [] });
    const path = `/lessons/${shared.id}/links/${shared.link!.token}/mails`;
    const refused = await teacher('POST', path, { to: ['anna@harbour.example'], note: '' });
    expect(await messageOf(refused)).toMatch(/no mail server/);
    await without.close();
  });
});
