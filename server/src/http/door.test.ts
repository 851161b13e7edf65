import { gzipSync } from 'node:zlib';
import { PROTOCOL } from '@kite-trail/core/contract/protocol';
import { describe, expect, it } from 'vitest';
import { json, messageOf, PASSWORD, startTestServer, testSchool } from '../testing';

const { school, call } = testSchool();

describe('what is sent', () => {
  it('is not inflated', async () => {
    const bomb = gzipSync(Buffer.from(JSON.stringify({ title: 'x'.repeat(30_000_000) })));
    expect(bomb.length).toBeLessThan(40_000);
    const headers = { 'content-encoding': 'gzip', 'content-type': 'application/json' };
    const answer = await call('POST', '/lessons', bomb, headers);
    expect(answer.status).toBe(415);
    expect(await json(call('GET', '/lessons'))).toEqual([]);
  });

  it('may be as large as what it is about, and is read only from those who may send it', async () => {
    const long = { title: 'x'.repeat(200_000) };
    expect((await call('POST', '/lessons', long)).status).toBe(413);
    expect((await school.server.caller()('POST', '/lessons', long)).status).toBe(401);
  });

  it('of a page without an address is refused', async () => {
    const answer = await call('POST', '/lessons', { title: 'From a file' }, { origin: 'null' });
    expect(answer.status).toBe(403);
  });

  it('by a page that is older than the server waits, and is told to be loaded anew', async () => {
    const older = await call('POST', '/lessons', { title: 'x' }, { [PROTOCOL.header]: String(PROTOCOL.oldest - 1) });
    expect(older.status).toBe(503);
    expect(await messageOf(older)).toMatch(/Load it anew/);
    const newer = await call('POST', '/lessons', { title: 'x' }, { [PROTOCOL.header]: String(PROTOCOL.version + 1) });
    expect(newer.status).toBe(503);
  });
});

describe('what is answered', () => {
  it('is kept by nobody on the way, shown in no frame, and takes nothing from elsewhere', async () => {
    const answer = await call('GET', '/lessons');
    expect(answer.headers.get('cache-control')).toBe('no-store');
    const policy = answer.headers.get('content-security-policy')!;
    for (const rule of [
      "default-src 'self'",
      "script-src 'self' 'wasm-unsafe-eval'",
      "frame-ancestors 'none'",
      "object-src 'none'",
    ]) {
      expect(policy).toContain(rule);
    }
    expect(answer.headers.get('x-content-type-options')).toBe('nosniff');
    expect(answer.headers.get('referrer-policy')).toBe('no-referrer');
    const foreign = await call('GET', '/lessons', undefined, { origin: 'https://elsewhere.example' });
    expect(foreign.headers.get('access-control-allow-origin')).toBeNull();
    expect(answer.headers.get('x-powered-by')).toBeNull();
  });
});

describe('whoever guesses', () => {
  const guess = (email: string, password: string) => school.server.caller()('POST', '/session', { email, password });

  it('is slowed down at one account, and nobody else of the school with them', async () => {
    await school.server.signedIn('known@example.org');
    const tries: number[] = [];
    for (let n = 0; n < 6; n++) tries.push((await guess('Known@example.org', `wrong-password-${n}`)).status);
    expect(tries).toEqual([401, 401, 401, 401, 401, 429]);
    expect((await guess('known@example.org', PASSWORD)).status).toBe(429);
    expect((await guess('mate@example.org', PASSWORD)).status).toBe(200);
  });

  it('is slowed down at many accounts', async () => {
    const tries: number[] = [];
    for (let n = 0; n < 20; n++) tries.push((await guess(`nobody-${n}@example.org`, 'wrong-password')).status);
    expect(tries.at(-1)).toBe(429);
    expect(tries.filter((status) => status === 401).length).toBeGreaterThan(10);
  });
});

describe('what is logged', () => {
  it('names requests and what was wrong, and nobody, nothing they wrote, and no token', async () => {
    const fresh = await startTestServer();
    const teacher = await fresh.signedIn('purser@example.org');
    await fresh.caller()('POST', '/session', { email: 'purser@example.org', password: 'a-wrong-password' });
    await fresh.db.schema.dropTable('kept_answers');
    await fresh.db.schema.dropTable('pages');
    const failed = await teacher('POST', '/lessons', { title: 'A title of mine' });
    expect(failed.status).toBe(500);
    await teacher('GET', '/watch/a-token-of-thirty-two-letters-0000');
    await teacher('DELETE', '/session');
    const all = fresh.logged.join('\n');
    expect(all).toContain(failed.headers.get('x-request-id'));
    expect(all).toContain('/watch/:token');
    expect(all).toMatch(/no such table: pages|relation \\"pages\\" does not exist/);
    for (const secret of ['purser', 'A title of mine', 'a-token-of-thirty-two', 'kite-trail=', 'a-wrong-password']) {
      expect([secret, all.includes(secret)]).toEqual([secret, false]);
      expect([secret, JSON.stringify(fresh.noted).includes(secret)]).toEqual([secret, false]);
    }
    expect(fresh.noted.map(({ event }) => event)).toEqual(['signed in', 'sign-in refused', 'not theirs', 'signed out']);
    await fresh.close();
  });
});

describe('setting a school up', () => {
  const account = { name: 'Ada', email: 'ada@example.org', password: PASSWORD };

  it('needs the code that was printed where the server was started, and is done once', async () => {
    const fresh = await startTestServer();
    const someone = fresh.caller();
    const wrong = await someone('POST', '/first-teacher', { ...account, code: 'aaaa-bbbb-cccc' });
    expect(wrong.status).toBe(403);
    expect(await messageOf(wrong)).toMatch(/not the set-up code/);
    const code = ` ${fresh.setUpCode.toUpperCase().replaceAll('-', ' ')}`;
    const both = await Promise.all(
      ['ada@example.org', 'eve@example.org'].map((email) =>
        fresh.caller()('POST', '/first-teacher', { ...account, email, code }),
      ),
    );
    expect(both.map(({ status }) => status).sort()).toEqual([200, 403]);
    expect(await fresh.db('teachers')).toHaveLength(1);
    await fresh.close();
  });
});
