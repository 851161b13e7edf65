import type { TeacherId } from '@kite-trail/core/lesson/ids';
import { describe, expect, it } from 'vitest';
import type { SessionRow } from '../database/rows';
import { isOnPostgres, json, PASSWORD, testSchool } from '../testing';
import { hasEnded } from './sessions';

const { school, call } = testSchool();

const signIn = (headers: Record<string, string> = {}) =>
  school.server.caller()('POST', '/session', { email: 'mate@example.org', password: PASSWORD }, headers);

describe('a sign-in', () => {
  const HOUR_MS = 3600 * 1000;
  const now = Date.parse('2026-11-28T09:00:00Z');
  const row = (ageHours: number, awayHours: number): SessionRow => ({
    id_hash: '',
    teacher_id: 'teacher' as TeacherId,
    device: '',
    signed_in_at: new Date(now - ageHours * HOUR_MS).toISOString(),
    seen_at: new Date(now - awayHours * HOUR_MS).toISOString(),
  });

  it.each([
    ['goes on while it is used', 24 * 20, 1, false],
    ['ends a week after it was last used', 24 * 20, 24 * 7 + 1, true],
    ['goes on in a lesson after thirty days', 24 * 30 + 2, 1, false],
    ['ends with the next pause after thirty days', 24 * 30 + 2, 5, true],
    ['ends after a day more in any case', 24 * 31 + 1, 0, true],
  ])('%s', (_, ageHours, awayHours, isOver) => {
    expect(hasEnded(row(ageHours, awayHours), now)).toBe(isOver);
  });

  it('that has ended lets nobody in', async () => {
    const aged = await school.server.signedIn('aged@example.org');
    expect((await aged('GET', '/lessons')).status).toBe(200);
    const { id: teacher_id } = await school.server.db('teachers').where({ email: 'aged@example.org' }).first();
    await school.server.db('sessions').where({ teacher_id }).update({ seen_at: '2020-01-01T00:00:00.000Z' });
    expect((await aged('GET', '/lessons')).status).toBe(401);
    await signIn();
    expect(await school.server.db('sessions').where({ teacher_id })).toEqual([]);
  });

  it('is known to the database by its hash alone', async () => {
    const [cookie] = (await signIn()).headers.getSetCookie();
    const id = decodeURIComponent(cookie).match(/=s:([^.]+)\./)![1];
    const rows = await school.server.db<SessionRow>('sessions');
    expect(rows.length).toBeGreaterThan(0);
    expect(JSON.stringify(rows)).not.toContain(id);
  });

  it('has a cookie for this address alone where it comes by https', async () => {
    const [plain] = (await signIn()).headers.getSetCookie();
    expect(plain).toMatch(/^kite-trail=.*HttpOnly; SameSite=Lax$/);
    const [secure] = (await signIn({ 'x-forwarded-proto': 'https' })).headers.getSetCookie();
    expect(secure).toMatch(/^__Host-kite-trail=.*Path=\/;.*HttpOnly; Secure; SameSite=Lax$/);
    expect(secure).not.toMatch(/Domain/);
  });
});

// SQLite alone counts what a connection has written, and can be told to write no more.
describe.skipIf(isOnPostgres)('a request of somebody signed in', () => {
  const changes = async () => (await school.server.db.raw<{ n: number }[]>('SELECT total_changes() AS n'))[0].n;

  it('writes nothing down, but once an hour that they were seen', async () => {
    await call('GET', '/lessons');
    const before = await changes();
    for (let n = 0; n < 5; n++) expect((await call('GET', '/lessons')).status).toBe(200);
    expect(await changes()).toBe(before);
    await school.server.db('sessions').update({ seen_at: new Date(Date.now() - 2 * 3600 * 1000).toISOString() });
    const aged = await changes();
    await call('GET', '/lessons');
    await call('GET', '/lessons');
    expect((await changes()) - aged).toBe(1);
  });

  it('is answered on a full disk, too', async () => {
    await school.server.db('sessions').update({ seen_at: new Date(Date.now() - 2 * 3600 * 1000).toISOString() });
    await school.server.db.raw('PRAGMA query_only = ON');
    expect((await call('GET', '/lessons')).status).toBe(200);
    await school.server.db.raw('PRAGMA query_only = OFF');
    expect(await json(call('GET', '/lessons'))).toEqual([]);
  });
});
