import type { ListedLesson } from '@kite-trail/core/contract/catalogue';
import type { SchoolClass } from '@kite-trail/core/contract/class';
import type { LessonDocument, LessonSummary } from '@kite-trail/core/contract/lesson';
import { USUAL_LINK, type Link, type LinkSettings, type madeLink } from '@kite-trail/core/contract/link';
import type { ClassPage, Watch } from '@kite-trail/core/contract/watch';
import { decodePayload } from '@kite-trail/core/formats/payload';
import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { PageId, TakeId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { describe, expect, it } from 'vitest';
import type { z } from 'zod';
import { addFile, json, messageOf, part, sharedLesson, testSchool, trimBody, type Caller } from '../testing';

const { school, call } = testSchool();
let takes = 0;

/** A lesson of ten seconds, shared. */
const shared = (title: string, more: object = {}) =>
  sharedLesson(call, { title, ...more }, { take: `take-of-links-${takes++}`, seconds: 10 });

interface More {
  settings?: Partial<LinkSettings>;
  passcode?: string;
  part?: unknown;
}
const asked = ({ settings, passcode, part: stretch = null }: More) => ({
  settings: { ...USUAL_LINK, ...settings },
  part: stretch,
  awaitsPasscode: passcode !== undefined,
});
const make = (id: string, more: More = {}) => call('POST', `/lessons/${id}/links`, asked(more));
const lock = (id: string, token: string, passcode: string | null) =>
  json<Link[]>(call('PUT', `/lessons/${id}/links/${token}/passcode`, { passcode }));
async function made(id: string, more: More = {}): Promise<Link> {
  const { passcode } = more;
  const { made: token, links } = await json<z.output<typeof madeLink>>(make(id, more));
  const now = passcode ? await lock(id, token, passcode) : links;
  return now.find((one) => one.token === token)!;
}
const change = (id: string, token: string, more: More) => call('PUT', `/lessons/${id}/links/${token}`, asked(more));
const student: Caller = (...what) => school.server.caller()(...what);
const watching = (token: string, pass = '') => student('GET', `/watch/${token}${pass && `?pass=${pass}`}`);
const class_ = async (name: string) =>
  (await json<{ id: string }>(call('POST', '/classes', { name, color: 'sea' }))).id as SchoolClass['id'];

describe('links', () => {
  it('are as many as are wanted, each with its own rules; all lead to what is shared last', async () => {
    const { id, edit, edition, link: first } = await shared('Bowline');
    const second = await made(id, { settings: { name: 'For the absent' } });
    expect(second).toMatchObject({ state: 'live', isUpToDate: true, lengthSamples: 480_000, lastWatchedOn: null });
    expect(second.token).not.toBe(first!.token);
    await call('PUT', `/lessons/${id}/edition`, trimBody({ edition, edit } as LessonDocument, 0, 96_000));
    const links = () => json<Link[]>(call('GET', `/lessons/${id}/links`));
    expect((await links()).map(({ isUpToDate }) => isUpToDate)).toEqual([false, false]);
    expect((await make(id)).status).toBe(409);
    const began = await json<Watch>(watching(second.token));
    expect(began.lengthSamples).toBe(480_000);
    await call('POST', `/lessons/${id}/publications/2`);
    expect((await links()).map(({ isUpToDate }) => isUpToDate)).toEqual([true, true]);
    expect((await json<Watch>(watching(second.token))).lengthSamples).toBe(96_000);
    // Whoever had begun goes on with what they began, though the link is younger than that.
    const payload = `/watch/${second.token}/publications/${began.publication}/payload`;
    expect((await student('GET', payload)).status).toBe(200);
    await call('DELETE', `/lessons/${id}/links/${second.token}`);
    expect((await watching(second.token)).status).toBe(410);
    expect((await watching(first!.token)).status).toBe(200);
    expect((await links())[0].state).toBe('withdrawn');
  });

  it('say on which day somebody last watched, and no more', async () => {
    const { id } = await shared('Constrictor knot');
    const { token } = await made(id, { passcode: 'harbour 7' });
    const { pass } = await json<{ pass: string }>(
      student('POST', `/watch/${token}/passcode`, { passcode: 'harbour 7' }),
    );
    const watchedOn = async () =>
      (await json<Link[]>(call('GET', `/lessons/${id}/links`))).find((one) => one.token === token)!.lastWatchedOn;
    expect((await student('POST', `/watch/${token}/watched`)).status).toBe(403);
    await watching(token, pass);
    expect(await watchedOn()).toBe(null);
    expect((await student('POST', `/watch/${token}/watched?pass=${pass}`)).status).toBe(204);
    expect(await watchedOn()).toBe(new Date().toISOString().slice(0, 10));
  });

  it('end when they should, and can be let go on', async () => {
    const { id } = await shared('Sheet bend');
    const { token } = await made(id, { settings: { endsAt: new Date(Date.now() + 3_600_000).toISOString() } });
    expect((await watching(token)).status).toBe(200);
    const publication = (await json<Watch>(watching(token))).publication;
    await change(id, token, { settings: { endsAt: '2020-01-01T00:00:00Z' } });
    const ended = await watching(token);
    expect([ended.status, await messageOf(ended)]).toEqual([410, expect.stringMatching(/come to its end/)]);
    expect((await student('GET', `/watch/${token}/publications/${publication}/payload`)).status).toBe(410);
    // It is the only one that has: the lesson is shared as before.
    expect((await json<LessonSummary[]>(call('GET', '/lessons'))).find((one) => one.id === id)!.shared).toBe(true);
    await change(id, token, { settings: { endsAt: null } });
    expect((await watching(token)).status).toBe(200);
  });

  it('open with their passcode alone, and no more with one that was', async () => {
    const { id } = await shared('Reef knot');
    const { token, hasPasscode } = await made(id, { passcode: ' harbour 7 ' });
    expect(hasPasscode).toBe(true);
    // Nobody gets in before it has its passcode, either.
    const { made: early } = await json<{ made: string }>(make(id, { passcode: 'later' }));
    expect((await watching(early)).status).toBe(403);
    for (const passcode of ['', '*', 'later']) {
      expect((await student('POST', `/watch/${early}/passcode`, { passcode })).status).toBe(403);
    }
    const locked = await watching(token);
    expect([locked.status, await locked.json()]).toMatchObject([403, { code: 'passcode' }]);
    const tried = (passcode: string, who = student) => who('POST', `/watch/${token}/passcode`, { passcode });
    expect(await messageOf(await tried('harbour 8'))).toMatch(/not the passcode/);
    const { pass } = await json<{ pass: string }>(tried('harbour 7'));
    const { publication } = await json<Watch>(watching(token, pass));
    const payload = `/watch/${token}/publications/${publication}/payload`;
    expect((await student('GET', payload)).status).toBe(403);
    expect((await student('GET', `${payload}?pass=${pass}`)).status).toBe(200);
    // The rules change, and it stays; another is set, and what the old one gave opens nothing.
    await change(id, token, { settings: { name: 'Crew' } });
    expect((await watching(token, pass)).status).toBe(200);
    await lock(id, token, 'lantern 9');
    expect((await watching(token, pass)).status).toBe(403);
    await lock(id, token, null);
    expect((await watching(token)).status).toBe(200);
    expect(JSON.stringify(await school.server.db('links')) + school.server.logged.join()).not.toMatch(
      /harbour 7|lantern/,
    );
  });

  it('cannot be guessed: after some tries one waits', async () => {
    const { id } = await shared('Clove hitch');
    const { token } = await made(id, { passcode: 'harbour 7' });
    const tries = [];
    for (let n = 0; n < 7; n++)
      tries.push((await student('POST', `/watch/${token}/passcode`, { passcode: `no ${n}` })).status);
    expect(tries).toEqual([403, 403, 403, 403, 403, 429, 429]);
  });

  it('may lead to a part alone: nothing of the rest is there, and it stays that part after edits', async () => {
    const { id, edit, edition } = await shared('Anchor hitch');
    const take = edition.programme[0].take as TakeId;
    const stretch = [{ take, fromSamples: 96_000, toSamples: 192_000 }];
    expect((await make(id, { part: stretch })).status).toBe(409);
    await call('POST', `/lessons/${id}/publications/1`, { part: stretch });
    const { token } = await made(id, { part: stretch });
    const played = async () => {
      const { publication, lengthSamples } = await json<Watch>(watching(token));
      const payload = await student('GET', `/watch/${token}/publications/${publication}/payload`);
      return [lengthSamples, decodePayload(new Uint8Array(await payload.arrayBuffer())).trail.lengthSamples];
    };
    expect(await played()).toEqual([96_000, 96_000]);
    // The first second is cut away: the part begins a second sooner, and is the same.
    await call('PUT', `/lessons/${id}/edition`, trimBody({ edition, edit } as LessonDocument, 48_000, 480_000));
    await call('POST', `/lessons/${id}/publications/2`);
    expect((await json<Link[]>(call('GET', `/lessons/${id}/links`)))[0]).toMatchObject({ token, isUpToDate: false });
    await call('POST', `/lessons/${id}/publications/2`, { part: stretch });
    expect(await played()).toEqual([96_000, 96_000]);
    // What the whole's link plays is not to be had by the part's.
    const whole = await json<LessonDocument>(call('GET', `/lessons/${id}`));
    const { publication } = await json<Watch>(watching(whole.link!.token));
    expect((await student('GET', `/watch/${token}/publications/${publication}/payload`)).status).toBe(404);
    const gone = [{ take, fromSamples: 0, toSamples: 24_000 }];
    const refused = await call('POST', `/lessons/${id}/publications/2`, { part: gone });
    expect([refused.status, await messageOf(refused)]).toEqual([400, expect.stringMatching(/cut out/)]);
  });

  it('are nobody else’s to see or change, and take no other teacher’s class', async () => {
    const { id, link } = await shared('Rolling hitch');
    const other = await school.server.signedIn('links@example.org');
    const foreign = (await json<{ id: string }>(other('POST', '/classes', { name: 'Theirs', color: 'kelp' }))).id;
    expect((await make(id, { settings: { schoolClass: foreign as never } })).status).toBe(404);
    for (const [method, path] of [
      ['GET', `/lessons/${id}/links`],
      ['PUT', `/lessons/${id}/links/${link!.token}`],
      ['DELETE', `/lessons/${id}/links/${link!.token}`],
    ]) {
      expect((await other(method, path, method === 'PUT' ? asked({}) : undefined)).status).toBe(404);
      expect((await student(method, path, method === 'PUT' ? asked({}) : undefined)).status).toBe(401);
    }
    const short = await call('PUT', `/lessons/${id}/links/${link!.token}/passcode`, { passcode: 'abc' });
    expect([short.status, await messageOf(short)]).toEqual([400, expect.stringMatching(/from 4 to 60/)]);
    const bad = await make(id, { settings: { sites: ['https://learn.example.org/path'] } });
    expect([bad.status, await messageOf(bad)]).toEqual([400, expect.stringMatching(/A site is written like/)]);
  });

  it('say what they allow: no captions where they are not allowed', async () => {
    const { id } = await shared('Figure of eight');
    const { token } = await made(id, { settings: { allows: { captions: false, download: true, questions: false } } });
    const about = await json<Watch>(watching(token));
    expect(about).toMatchObject({ hasCaptions: false, mayDownload: true });
    expect((await student('GET', `/watch/${token}/publications/${about.publication}/captions`)).status).toBe(404);
    const picture = await student('GET', `/watch/${token}/publications/${about.publication}/picture`);
    expect(picture.headers.get('content-type')).toBe('image/png');
  });
});

describe('a class page', () => {
  it('has all that is shared with its class, in the order in which it is taught, for whoever has its address', async () => {
    const crew = await class_('Crew');
    const [a, b, c] = [
      await shared('Splice', { classes: [crew] }),
      await shared('Whipping', { classes: [crew] }),
      await shared('Not for them', { classes: [crew] }),
    ];
    await made(b.id, { settings: { schoolClass: crew } });
    await made(a.id, { settings: { schoolClass: crew }, passcode: 'harbour 7' });
    const token = async () =>
      (await json<SchoolClass[]>(call('GET', '/classes'))).find(({ id }) => id === crew)!.pageToken;
    const first = (await token())!;
    const page = await json<ClassPage>(student('GET', `/class-pages/${first}`));
    expect(page.lessons.map(({ title, isLocked }) => [title, isLocked])).toEqual([
      ['Splice', true],
      ['Whipping', false],
    ]);
    expect(JSON.stringify(page)).not.toContain(c.id);
    await call('POST', '/placing', { lessons: [b.id], from: crew, to: crew, before: a.id });
    await call('POST', '/binning', { lessons: [a.id], isBinned: true });
    expect((await json<ClassPage>(student('GET', `/class-pages/${first}`))).lessons.map(({ title }) => title)).toEqual([
      'Whipping',
    ]);
    await call('POST', `/classes/${crew}/page`);
    expect((await student('GET', `/class-pages/${first}`)).status).toBe(404);
    expect((await student('GET', `/class-pages/${(await token())!}`)).status).toBe(200);
    await call('DELETE', `/classes/${crew}/page`);
    expect(await token()).toBe(null);
  });
});

describe('the catalogue', () => {
  it('lists what teachers list, for teachers; it is copied where that is allowed, and the copy names it', async () => {
    const { id } = await shared('Eye splice');
    await addFile(call, id, Buffer.from('%PDF-1.7'), 'rope.pdf');
    await shared('Kept to myself');
    const { token } = await made(id, { settings: { isListed: true } });
    const other = await school.server.signedIn('reader@example.org');
    const listed = async (who: Caller) => json<ListedLesson[]>(who('GET', '/catalogue'));
    expect((await listed(other)).map(({ title, isOwn, mayCopy }) => [title, isOwn, mayCopy])).toEqual([
      ['Eye splice', false, false],
    ]);
    expect((await listed(call))[0].isOwn).toBe(true);
    expect((await student('GET', '/catalogue')).status).toBe(401);
    await other('PUT', `/catalogue/${token}/favourite`, { isFavourite: true });
    expect((await listed(other))[0].isFavourite).toBe(true);
    const refused = await other('POST', `/catalogue/${token}/copy`);
    expect([refused.status, await messageOf(refused)]).toEqual([
      403,
      expect.stringMatching(/does not let others copy/),
    ]);

    await change(id, token, { settings: { isListed: true, mayCopy: true } });
    const copy = await json<LessonDocument>(other('POST', `/catalogue/${token}/copy`));
    expect([copy.title, copy.takes.length, copy.edition.programme.length]).toEqual(['Eye splice', 1, 1]);
    const [summary] = await json<LessonSummary[]>(other('GET', '/lessons'));
    expect(summary.source).toEqual({ teacher: 'mate@example.org', title: 'Eye splice', licence: 'reserved' });
    // It stays when the lesson it was made of goes.
    await call('POST', '/binning', { lessons: [id], isBinned: true });
    await call('DELETE', `/lessons/${id}`);
    expect((await other('GET', `/takes/${copy.takes[0].id}/sound`)).status).toBe(200);
    expect(await listed(other)).toEqual([]);
    expect((await other('POST', `/catalogue/${token}/copy`)).status).toBe(404);
  });

  it('gives away nothing that was thrown away, but the pages that others write on', async () => {
    const { id, edition, pages: prepared } = await shared('Back splice');
    const page = { ...prepared[0].page, id: 'page-thrown-away' as PageId };
    const addPage: Mark = { kind: 'add-page', atSamples: 10, page, after: null };
    const turn: Mark = { kind: 'turn', atSamples: 20, page: page.id };
    const later = { 'take-thrown-away': [], 'take-with-page': [addPage, turn] };
    for (const [take, marks] of Object.entries(later)) {
      await call('POST', `/lessons/${id}/takes`, { id: take, hasSound: true });
      await call('PUT', `/takes/${take}/parts/0`, part(48_000, { marks }));
      await call('POST', `/takes/${take}/end`, { parts: 1 });
      await call('PUT', `/takes/${take}/bin`);
    }
    await call('POST', `/lessons/${id}/versions`, { name: 'Only tried' });
    const { edit } = await json<LessonDocument>(call('GET', `/lessons/${id}`));
    await call('POST', `/lessons/${id}/publications/${edit.n}`);
    const { token } = await made(id, { settings: { isListed: true, mayCopy: true } });
    const other = await school.server.signedIn('tidy@example.org');
    const copy = await json<LessonDocument>(other('POST', `/catalogue/${token}/copy`));
    expect(copy.takes.map(({ isBinned, hasSound }) => [isBinned, hasSound])).toEqual([
      [false, true],
      [true, false],
    ]);
    expect(copy.versions).toEqual([]);
    expect(copy.edition.programme).toMatchObject([{ kind: 'play', toSamples: 480_000 }, { kind: 'pages' }]);
    expect(copy.takes.map((take) => take.id)).not.toContain(edition.programme[0].take);
    const marks = await other('GET', `/takes/${copy.takes[1].id}/marks`);
    expect(decodeMarks(new Uint8Array(await marks.arrayBuffer()))).toEqual([addPage]);
    await call('POST', '/binning', { lessons: [id], isBinned: true });
  });

  it('lets nobody copy by a link that shows a part alone, or asks for a passcode', async () => {
    const { id, edition } = await shared('Short splice');
    const stretch = [{ take: edition.programme[0].take, fromSamples: 0, toSamples: 96_000 }];
    await call('POST', `/lessons/${id}/publications/1`, { part: stretch });
    const settings = { isListed: true, mayCopy: true };
    const links = [await made(id, { settings, part: stretch }), await made(id, { settings, passcode: 'harbour 7' })];
    const other = await school.server.signedIn('curious@example.org');
    const listed = await json<ListedLesson[]>(other('GET', '/catalogue'));
    for (const { token } of links) {
      expect(listed.find((one) => one.token === token)).toMatchObject({ mayCopy: false });
      expect((await other('POST', `/catalogue/${token}/copy`)).status).toBe(403);
    }
    await call('POST', '/binning', { lessons: [id], isBinned: true });
  });

  it('lets nobody copy what is no longer listed', async () => {
    const { id } = await shared('Long splice');
    const { token } = await made(id, { settings: { isListed: true, mayCopy: true } });
    await change(id, token, { settings: { mayCopy: true } });
    const other = await school.server.signedIn('late@example.org');
    expect((await other('POST', `/catalogue/${token}/copy`)).status).toBe(404);
    expect((await watching(token)).status).toBe(200);
  });
});
