import type { Session, Ticket } from '@kite-trail/core/contract/account';
import { beforeAll, describe, expect, it } from 'vitest';
import type { TeacherRow } from '../database/rows';
import { json, messageOf, PASSWORD, testSchool } from '../testing';

const { school, call } = testSchool('keeper@example.org', { isKeeper: true });
const someone = () => school.server.caller();
const invited = async (): Promise<string> => (await json<Ticket>(call('POST', '/tickets', { teacher: null }))).code;
const account = (email: string, code: string) => ({ code, name: 'Nils', email, password: PASSWORD });
const join = (email: string, code: string) => someone()('POST', '/tickets/joining', account(email, code));
const signIn = (email: string, password: string) => someone()('POST', '/session', { email, password });
const idOf = async (email: string) => (await school.server.db<TeacherRow>('teachers').where({ email }).first())!.id;

describe('an invitation', () => {
  it('makes a teacher of whoever has it, once, who keeps nothing', async () => {
    const code = await invited();
    expect(await json(someone()('POST', '/tickets/reading', { code }))).toEqual({ name: null });
    const nils = someone();
    const joined = await json<Session>(nils('POST', '/tickets/joining', account('nils@example.org', code)));
    expect(joined.teacher).toMatchObject({ name: 'Nils', isKeeper: false });
    expect((await nils('GET', '/lessons')).status).toBe(200);
    expect((await signIn('nils@example.org', PASSWORD)).status).toBe(200);
    const again = await join('eve@example.org', code);
    expect(again.status).toBe(404);
    expect(await messageOf(again)).toMatch(/used already/);
    expect((await someone()('POST', '/tickets/reading', { code })).status).toBe(404);
  });

  it('lets one in when two use it at once', async () => {
    const code = await invited();
    const both = await Promise.all([join('one@example.org', code), join('two@example.org', code)]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 404]);
  });

  it('stays good when nobody came of it', async () => {
    const code = await invited();
    expect((await join('keeper@example.org', code)).status).toBe(409);
    const weak = await someone()('POST', '/tickets/joining', {
      ...account('ida@example.org', code),
      password: 'short',
    });
    expect(weak.status).toBe(400);
    expect((await join('ida@example.org', code)).status).toBe(200);
  });

  it('runs out', async () => {
    const code = await invited();
    await school.server.db('tickets').update({ ends_at: '2020-01-01T00:00:00.000Z' });
    expect((await join('late@example.org', code)).status).toBe(404);
  });

  it('is known to the database by its hash, also where its answer might be asked for again', async () => {
    const asked = await call('POST', '/tickets', { teacher: null }, { 'idempotency-key': '"a-key-of-mine"' });
    const { code } = await json<Ticket>(asked);
    expect(JSON.stringify(await school.server.db('tickets'))).not.toContain(code);
    expect(await school.server.db('kept_answers').where({ key: 'a-key-of-mine' })).toEqual([]);
  });
});

describe('a link for a new password', () => {
  let old: ReturnType<typeof someone>;
  beforeAll(async () => {
    old = await school.server.signedIn('lost@example.org');
  });
  const linkFor = async (email: string) =>
    (await json<Ticket>(call('POST', '/tickets', { teacher: await idOf(email) }))).code;
  const reset = (code: string, password: string) => someone()('POST', '/tickets/resetting', { code, password });

  it('sets it once, and signs out whoever was in', async () => {
    const first = await linkFor('lost@example.org');
    const code = await linkFor('lost@example.org');
    // The older link is worth nothing any more.
    expect((await reset(first, 'a-new-anchorage-2')).status).toBe(404);
    expect(await json(someone()('POST', '/tickets/reading', { code }))).toEqual({ name: 'lost@example.org' });
    expect((await old('GET', '/lessons')).status).toBe(200);
    expect((await reset(code, 'a-new-anchorage-2')).status).toBe(200);
    expect((await old('GET', '/lessons')).status).toBe(401);
    expect((await signIn('lost@example.org', PASSWORD)).status).toBe(401);
    expect((await signIn('lost@example.org', 'a-new-anchorage-2')).status).toBe(200);
    expect((await reset(code, 'a-third-anchorage-3')).status).toBe(404);
  });

  it('is no invitation, and an invitation sets no password', async () => {
    const code = await linkFor('lost@example.org');
    expect((await join('sly@example.org', code)).status).toBe(404);
    expect((await reset(await invited(), 'a-new-anchorage-4')).status).toBe(404);
    expect((await reset(code, 'a-new-anchorage-4')).status).toBe(200);
  });

  it('is for nobody who is not there', async () => {
    expect((await call('POST', '/tickets', { teacher: 'nobody-at-all' })).status).toBe(404);
  });
});

it('whoever guesses one locks nobody else out of theirs, wherever they guess from', async () => {
  const code = await invited();
  const from = (n: number) => ({ 'x-forwarded-for': `203.0.113.${n}` });
  const guess = (n: number) => someone()('POST', '/tickets/reading', { code: `guess-${n}` }, from(n));
  const tries = await Promise.all(Array.from({ length: 60 }, (_, n) => guess(n)));
  expect(new Set(tries.map(({ status }) => status))).toEqual(new Set([404]));
  expect((await someone()('POST', '/tickets/reading', { code }, from(100))).status).toBe(200);
});

it('nobody guesses one', async () => {
  const tries: number[] = [];
  for (let n = 0; n < 22; n++) tries.push((await someone()('POST', '/tickets/reading', { code: `guess-${n}` })).status);
  expect(tries.at(-1)).toBe(429);
});
