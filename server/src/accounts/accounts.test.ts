import type { Session, SignIn } from '@kite-trail/core/contract/account';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { beforeAll, describe, expect, it } from 'vitest';
import { NAMING_ASSETS } from '../assets/ownership';
import { TABLES } from '../database/move';
import type { TeacherRow } from '../database/rows';
import { addFile, isOnPostgres, json, messageOf, part, PASSWORD, testSchool, type Caller } from '../testing';

const { school } = testSchool();
const signIn = async (email: string, password = PASSWORD, device = 'A browser') => {
  const call = school.server.caller();
  const { status } = await call('POST', '/session', { email, password }, { 'user-agent': device });
  return { call, status };
};
const signIns = (call: Caller) => json<SignIn[]>(call('GET', '/account/sign-ins'));
const statusOf = async (call: Caller) => (await call('GET', '/lessons')).status;

describe('a password', () => {
  const NEW = 'leading-line-at-dusk';
  let weakling: Caller;
  beforeAll(async () => {
    weakling = await school.server.signedIn('weakling@example.org');
  });
  const change = (call: Caller, newPassword: string, password = PASSWORD) =>
    call('PUT', '/account/password', { password, newPassword });

  it('is changed by whoever knows it, and signs out everybody else who did', async () => {
    const here = await school.server.signedIn('change@example.org');
    const { call: elsewhere } = await signIn('change@example.org');
    const before = await signIns(here);
    const wrong = await change(here, NEW, 'not-mine-at-all');
    expect([wrong.status, await messageOf(wrong)]).toEqual([403, 'This is not your present password.']);
    expect(await statusOf(elsewhere)).toBe(200);
    expect((await change(here, NEW)).status).toBe(204);
    expect(await statusOf(elsewhere)).toBe(401);
    expect(await statusOf(here)).toBe(200);
    const after = await signIns(here);
    expect(after).toHaveLength(1);
    expect(before.map(({ id }) => id)).not.toContain(after[0].id);
    expect((await signIn('change@example.org')).status).toBe(401);
    expect((await signIn('change@example.org', NEW)).status).toBe(200);
  });

  it.each([
    ['short', /at least 10/],
    // Of the list of breached passwords, in capitals as well.
    ['QWERTYUIOP', /lists of those who break in/],
    ['masterofpuppets', /lists of those who break in/],
    ['12-weakling-34', /without it/],
    ['KiteTrail-2026', /without it/],
  ])('that others guess is none: %s', async (password, message) => {
    const answer = await change(weakling, password);
    expect(answer.status).toBe(400);
    expect(await messageOf(answer)).toMatch(message);
  });

  it('cannot be tried without end by whoever finds a screen unlocked', async () => {
    const call = await school.server.signedIn('unlocked@example.org');
    const tries: number[] = [];
    for (let n = 0; n < 6; n++) tries.push((await change(call, NEW, `a-wrong-one-${n}`)).status);
    expect(tries).toEqual([403, 403, 403, 403, 403, 429]);
    expect((await call('POST', '/account/deletion', { password: PASSWORD })).status).toBe(429);
  });

  it('is in no answer that is kept, nor is anything made of it but its hash', async () => {
    const call = await school.server.signedIn('kept@example.org');
    const headers = { 'idempotency-key': '"key-of-a-password"' };
    await call('PUT', '/account/password', { password: PASSWORD, newPassword: NEW }, headers);
    expect(await school.server.db('kept_answers').where({ key: 'key-of-a-password' })).toEqual([]);
  });
});

describe('an account', () => {
  it('is changed by whoever knows the password, to an address nobody else has', async () => {
    const call = await school.server.signedIn('was@example.org');
    const change = (email: string, password = PASSWORD) => call('PUT', '/account', { name: 'Ada', email, password });
    expect((await change('is@example.org', 'not-my-password')).status).toBe(403);
    expect((await change('mate@example.org')).status).toBe(409);
    const { teacher } = await json<Session>(change('IS@example.org'));
    expect(teacher).toMatchObject({ name: 'Ada', email: 'is@example.org' });
    expect((await signIn('is@example.org')).status).toBe(200);
  });
});

describe('where somebody is signed in', () => {
  it('is told, and can be ended one by one and all at once, by themselves alone', async () => {
    const here = await school.server.signedIn('here@example.org');
    const { call: panel } = await signIn('here@example.org', PASSWORD, 'The panel in the loft');
    const { call: phone } = await signIn('here@example.org', PASSWORD, 'A phone');
    const told = await signIns(here);
    expect(told.map(({ device }) => device)).toContain('The panel in the loft');
    expect(told.filter(({ isThis }) => isThis)).toHaveLength(1);
    const ofPanel = told.find(({ device }) => device.includes('loft'))!;

    const other = await school.server.signedIn('nosy@example.org');
    await other('DELETE', `/account/sign-ins/${ofPanel.id}`);
    expect(await statusOf(panel)).toBe(200);
    await here('DELETE', `/account/sign-ins/${ofPanel.id}`);
    expect([await statusOf(panel), await statusOf(phone)]).toEqual([401, 200]);
    await here('DELETE', '/account/sign-ins');
    expect([await statusOf(phone), await statusOf(here)]).toEqual([401, 200]);
    expect(await statusOf(other)).toBe(200);
  });
});

describe('an account that is deleted', () => {
  const WORKSHEET = Buffer.from('%PDF-1.7 worksheet');
  const OWN = Buffer.from('%PDF-1.7 only mine');

  async function lessonOf(call: Caller, take: string, files: readonly Buffer[]) {
    const { id } = await json<LessonDocument>(call('POST', '/lessons', { title: 'Knots' }));
    for (const file of files) await addFile(call, id, file);
    await call('POST', `/lessons/${id}/takes`, { id: take, hasSound: true });
    await call('PUT', `/takes/${take}/parts/0`, part(48_000));
    await call('POST', `/takes/${take}/end`, { parts: 1 });
    return json<LessonDocument>(call('POST', `/lessons/${id}/publications/1`));
  }

  it('is gone for good, with all that nobody else has', async () => {
    const { db } = school.server;
    const stays = await school.server.signedIn('stays@example.org');
    const lesson = await lessonOf(stays, 'take-that-stays', [WORKSHEET]);
    const before = await countsOf();

    const goes = await school.server.signedIn('goes@example.org');
    const { link } = await lessonOf(goes, 'take-that-goes', [WORKSHEET, OWN]);
    expect((await goes('POST', '/account/deletion', { password: 'not-my-password' })).status).toBe(403);
    expect(await statusOf(goes)).toBe(200);
    expect((await goes('POST', '/account/deletion', { password: PASSWORD })).status).toBe(204);

    expect(await countsOf()).toEqual(before);
    expect(await statusOf(goes)).toBe(401);
    expect((await signIn('goes@example.org')).status).toBe(401);
    expect((await school.server.caller()('GET', `/watch/${link!.token}`)).status).toBe(404);
    const [{ asset_id }] = await db('lesson_assets').where({ lesson_id: lesson.id });
    const file = await stays('GET', `/lessons/${lesson.id}/assets/${asset_id}`);
    expect(Buffer.from(await file.arrayBuffer())).toEqual(WORKSHEET);
    expect((await stays('GET', '/takes/take-that-stays/sound')).status).toBe(200);
  });

  async function countsOf(): Promise<Record<string, number>> {
    const counts: Record<string, number> = {};
    for (const table of Object.keys(TABLES)) counts[table] = (await school.server.db(table)).length;
    return counts;
  }

  it.skipIf(isOnPostgres)(
    'leaves no file that is named anywhere else: every column that names files is known',
    async () => {
      const named: string[] = [];
      for (const table of Object.keys(TABLES).filter((name) => name !== 'asset_chunks')) {
        const keys: { table: string; from: string }[] = await school.server.db.raw(`PRAGMA foreign_key_list(${table})`);
        named.push(...keys.filter((key) => key.table === 'assets').map((key) => `${table}.${key.from}`));
      }
      expect(NAMING_ASSETS.map(({ table, column }) => `${table}.${column}`).sort()).toEqual(named.sort());
    },
  );
});

describe('who keeps the school', () => {
  const keeper = async (email: string) => {
    const call = await school.server.signedIn(email, { isKeeper: true });
    const { id } = (await school.server.db<TeacherRow>('teachers').where({ email }).first())!;
    return {
      call,
      set: (who: string, isKeeper: boolean, isShutOut = false) =>
        call('PUT', `/teachers/${who}`, { isKeeper, isShutOut }),
      id,
    };
  };

  it('shuts teachers out and lets them in again; their work and their links stay', async () => {
    const one = await keeper('one@example.org');
    const leaver = await school.server.signedIn('leaver@example.org');
    const { id } = (await school.server.db<TeacherRow>('teachers').where({ email: 'leaver@example.org' }).first())!;
    await leaver('POST', '/lessons', { title: 'Tides' });
    expect((await one.set(id, false, true)).status).toBe(200);
    expect(await statusOf(leaver)).toBe(401);
    expect((await signIn('leaver@example.org')).status).toBe(403);
    expect((await signIn('leaver@example.org', 'a-wrong-password')).status).toBe(401);
    await one.set(id, false, false);
    const { call: back } = await signIn('leaver@example.org');
    expect(await json(back('GET', '/lessons'))).toHaveLength(1);
  });

  it('is always somebody', async () => {
    await school.server.db('teachers').update({ is_keeper: false });
    const first = await keeper('first@example.org');
    const second = await keeper('second@example.org');
    const both = await Promise.all([first.set(second.id, false), second.set(first.id, false)]);
    expect(both.map(({ status }) => status).filter((status) => status === 200)).toHaveLength(1);
    const left: TeacherRow[] = await school.server.db<TeacherRow>('teachers').where({ is_keeper: true });
    expect(left).toHaveLength(1);
    const last = left[0].id === first.id ? first : second;
    for (const refused of [
      await last.set(last.id, false),
      await last.set(last.id, true, true),
      await last.call('POST', '/account/deletion', { password: PASSWORD }),
    ]) {
      expect(refused.status).toBe(409);
      expect(await messageOf(refused)).toMatch(/Make another teacher a keeper first/);
    }
  });
});
