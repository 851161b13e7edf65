import { mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DRIVE_PART_BYTES, driveName, type Drive, type DriveFolder } from '@kite-trail/core/contract/drive';
import type { DriveAccountRow } from '@kite-trail/server/database/rows';
import type { SchoolDrive } from '@kite-trail/server/drives/school-drives';
import { KEY_BYTES, Seal } from '@kite-trail/server/drives/seal';
import { json, messageOf, startTestServer, type Caller, type TestServer } from '@kite-trail/server/testing';
import fc from 'fast-check';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { FULL_FOLDER, StandInDrive } from './stand-in';

const MARIT = { userName: 'marit', password: 'cleat-hitch' };

let folder: string;
let drive: StandInDrive;
let server: TestServer;
let call: Caller;
let other: Caller;
/** What the school allows: the stand-in, and whatever a test has at an address. */
const all: SchoolDrive[] = [];
const odd: Server[] = [];

beforeAll(async () => {
  server = await startTestServer({ drives: { all, seal: new Seal(Buffer.alloc(KEY_BYTES, 7)) } });
  call = await server.signedIn('marit@example.org');
  other = await server.signedIn('jonas@example.org');
});
afterAll(() => server.close());
beforeEach(async () => {
  await server.db('drive_accounts').delete();
  folder = mkdtempSync(join(tmpdir(), 'kite-trail-drive-'));
  drive = await StandInDrive.open(folder, [MARIT]);
  all.splice(0, all.length, { id: 'boats', name: 'boats', address: drive.address });
});
afterEach(async () => {
  await drive.close();
  for (const one of odd.splice(0)) one.close();
});

const connect = (account: object = MARIT, id = 'boats', by = call) => by('PUT', `/drives/${id}/account`, account);
const list = (path: string[] = [], id = 'boats', by = call) =>
  by('GET', `/drives/${id}/folder?path=${encodeURIComponent(JSON.stringify(path))}`);
const namesIn = async (path: string[] = []) =>
  (await json<DriveFolder>(list(path))).entries.map(({ name, isFolder }) => (isFolder ? `${name}/` : name));

async function send(name: string, bytes: Uint8Array, path: string[] = []): Promise<Response> {
  const begun = await call('POST', '/drives/boats/sendings', { path, name, sizeBytes: bytes.length });
  if (!begun.ok) return begun;
  const at = `/drives/boats/sendings/${((await begun.json()) as { id: string }).id}`;
  for (let n = 0; n * DRIVE_PART_BYTES < bytes.length; n++) {
    const part = bytes.subarray(n * DRIVE_PART_BYTES, (n + 1) * DRIVE_PART_BYTES);
    const passed = await call('PUT', `${at}/parts/${n}`, part);
    if (!passed.ok) return passed;
  }
  return call('POST', `${at}/end`);
}

const noise = (length: number) => Uint8Array.from({ length }, (_, i) => (i * 7919) >> 5);

describe('a drive of the school', () => {
  it('is opened by a name and a password it knows, and by no other', async () => {
    expect(await json<Drive[]>(call('GET', '/drives'))).toEqual([{ id: 'boats', name: 'boats', userName: null }]);
    expect((await list()).status).toBe(404);
    const wrong = await connect({ ...MARIT, password: 'granny-knot' });
    expect([wrong.status, await messageOf(wrong)]).toEqual([409, expect.stringMatching(/does not know this name/)]);
    expect(await server.db('drive_accounts')).toEqual([]);
    expect(await json<Drive[]>(connect())).toMatchObject([{ userName: 'marit' }]);
    expect(await namesIn()).toEqual([]);
  });

  it('takes a file of several parts whole, and writes nothing over', async () => {
    await connect();
    const film = noise(2 * DRIVE_PART_BYTES + 12_345);
    writeFileSync(join(folder, 'Tides.mp4'), 'an earlier one');
    expect(await json(send('Tides.mp4', film))).toEqual({ name: 'Tides 2.mp4' });
    expect(await json(send('Tides.mp4', film.subarray(0, 1)))).toEqual({ name: 'Tides 3.mp4' });
    expect(readFileSync(join(folder, 'Tides.mp4'), 'utf8')).toBe('an earlier one');
    expect(readFileSync(join(folder, 'Tides 2.mp4')).equals(film)).toBe(true);
    expect(readdirSync(folder).sort()).toEqual(['Tides 2.mp4', 'Tides 3.mp4', 'Tides.mp4']);
  });

  it('takes a part that comes again once, and none out of turn', async () => {
    await connect();
    const bytes = noise(DRIVE_PART_BYTES + 10);
    const asked = { path: [], name: 'Knots.pdf', sizeBytes: bytes.length };
    const { id } = await json<{ id: string }>(call('POST', '/drives/boats/sendings', asked));
    const pass = (n: number, from: number, to: number) =>
      call('PUT', `/drives/boats/sendings/${id}/parts/${n}`, bytes.subarray(from, to));
    expect((await pass(1, DRIVE_PART_BYTES, bytes.length)).status).toBe(400);
    expect((await pass(0, 0, 10)).status).toBe(400);
    const twice = await Promise.all([pass(0, 0, DRIVE_PART_BYTES), pass(0, 0, DRIVE_PART_BYTES)]);
    expect(twice.map(({ status }) => status)).toEqual([204, 204]);
    expect((await call('POST', `/drives/boats/sendings/${id}/end`)).status).toBe(400);
    await pass(1, DRIVE_PART_BYTES, bytes.length);
    expect(await json(call('POST', `/drives/boats/sendings/${id}/end`))).toEqual({ name: 'Knots.pdf' });
    expect(readFileSync(join(folder, 'Knots.pdf')).equals(bytes)).toBe(true);
  });

  it('keeps nothing of a file that was given up', async () => {
    await connect();
    const asked = { path: [], name: 'Knots.pdf', sizeBytes: 3 * DRIVE_PART_BYTES };
    const { id } = await json<{ id: string }>(call('POST', '/drives/boats/sendings', asked));
    await call('PUT', `/drives/boats/sendings/${id}/parts/0`, noise(DRIVE_PART_BYTES));
    expect((await call('DELETE', `/drives/boats/sendings/${id}`)).status).toBe(204);
    expect(readdirSync(folder)).toEqual([]);
    expect((await call('DELETE', `/drives/boats/sendings/${id}`)).status).toBe(404);
  });

  it('says where there is no room, or no such folder, and is asked for no more', async () => {
    mkdirSync(join(folder, FULL_FOLDER));
    await connect();
    const full = await send('Tides.mp4', noise(3 * DRIVE_PART_BYTES), [FULL_FOLDER]);
    expect([full.status, await messageOf(full)]).toEqual([409, 'There is no room left on the drive.']);
    const gone = await send('Tides.mp4', noise(10), ['Not here']);
    expect([gone.status, await messageOf(gone)]).toEqual([409, 'This is not on the drive any more.']);
    expect(readdirSync(join(folder, FULL_FOLDER))).toEqual([]);
  });

  it('takes any name a drive may have, and shows, and reads it again', async () => {
    await connect();
    const name = fc
      .string({ unit: 'binary', minLength: 1, maxLength: 40 })
      .map((one) => `n${one}`.replaceAll(/[/\\\p{Cc}\p{Surrogate}]/gu, '').trim());
    await fc.assert(
      fc.asyncProperty(name, fc.uint8Array({ minLength: 1, maxLength: 99 }), async (wanted, bytes) => {
        const { name: got } = await json<{ name: string }>(send(wanted, bytes));
        expect(await namesIn()).toContain(got);
        const path = encodeURIComponent(JSON.stringify([got]));
        const answer = await call('GET', `/drives/boats/file?path=${path}`);
        expect(new Uint8Array(await answer.arrayBuffer())).toEqual(bytes);
        expect(answer.headers.get('content-type')).toBe('application/octet-stream');
        expect(answer.headers.get('content-disposition')).toMatch(/^attachment/);
      }),
      { numRuns: 40 },
    );
  });

  it.each([['..'], ['.'], ['a/b'], ['a\\b'], ['a\0'], [''], ['ä'.repeat(128)]])('refuses the name %j', async (name) => {
    await connect();
    expect(driveName.safeParse(name).success).toBe(false);
    expect((await send(name, noise(3))).status).toBe(400);
    expect((await list([name])).status).toBe(400);
    expect(readdirSync(folder)).toEqual([]);
  });

  it('tells folders first, and nothing that is half written', async () => {
    for (const one of ['Films', '.hidden']) mkdirSync(join(folder, one));
    for (const one of ['b 10.pdf', 'b 9.pdf', '.x.part']) writeFileSync(join(folder, one), '');
    await connect();
    expect(await namesIn()).toEqual(['Films/', 'b 9.pdf', 'b 10.pdf']);
  });

  it('is each teacher’s by their own password, which is kept sealed and told to nobody', async () => {
    await connect();
    expect((await list([], 'boats', other)).status).toBe(404);
    const asked = { path: [], name: 'Knots.pdf', sizeBytes: 10 };
    const { id } = await json<{ id: string }>(call('POST', '/drives/boats/sendings', asked));
    // With the other's own account, too, what is on its way stays its sender's.
    await connect(MARIT, 'boats', other);
    for (const [method, path] of [
      ['PUT', 'parts/0'],
      ['POST', 'end'],
      ['DELETE', ''],
    ]) {
      const at = `/drives/boats/sendings/${id}/${path}`.replace(/\/$/, '');
      expect((await other(method, at, method === 'PUT' ? noise(10) : undefined)).status).toBe(404);
    }
    const rows = await server.db<DriveAccountRow>('drive_accounts');
    expect(rows).toHaveLength(2);
    for (const { sealed_password } of rows) expect(sealed_password.includes(MARIT.password)).toBe(false);
    expect(JSON.stringify(await json(call('GET', '/drives')))).not.toContain(MARIT.password);
    expect(server.logged.join('')).not.toContain(MARIT.password);
    // What is sealed for one opens for nobody else.
    const [one, two] = rows;
    await server
      .db('drive_accounts')
      .where({ teacher_id: two.teacher_id })
      .update({ sealed_password: one.sealed_password });
    const answers = await Promise.all([list(), list([], 'boats', other)]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
  });

  it('is forgotten when its teacher wants it', async () => {
    await connect();
    expect(await json<Drive[]>(call('DELETE', '/drives/boats/account'))).toMatchObject([{ userName: null }]);
    expect(await server.db('drive_accounts')).toEqual([]);
  });

  it('is told to be away when it is, and asked for again then', async () => {
    await connect();
    const { port } = new URL(drive.address);
    await drive.close();
    const away = await list();
    expect([away.status, await messageOf(away)]).toEqual([503, expect.stringMatching(/cannot be reached/)]);
    drive = await StandInDrive.open(folder, [MARIT], Number(port));
    expect((await list()).status).toBe(200);
  });
});

describe('a drive that is none', () => {
  /** Something else, at an address that the school allows or at none of its. */
  async function instead(answer: RequestListener, isAllowed = true): Promise<string> {
    const something = createServer(answer);
    odd.push(something);
    await new Promise<void>((resolve) => something.listen(0, 'localhost', resolve));
    const address = `http://localhost:${(something.address() as AddressInfo).port}/`;
    if (isAllowed) all.push({ id: 'odd', name: 'odd', address });
    return address;
  }

  it('leads nobody elsewhere', async () => {
    let asked = 0;
    const inside = await instead((_, response) => {
      asked++;
      response.end('what is nobody’s business');
    }, false);
    await instead((_, response) => response.writeHead(302, { location: inside }).end());
    const answer = await connect(MARIT, 'odd');
    expect([answer.status, await messageOf(answer)]).toEqual([503, expect.stringMatching(/cannot be reached/)]);
    expect(asked).toBe(0);
  });

  it.each<[string, RequestListener]>([
    ['answers with a page', (_, response) => response.end('<html>Welcome</html>')],
    ['answers with nothing', (_, response) => response.writeHead(207).end()],
    ['fails', (_, response) => response.writeHead(500).end()],
    ['hangs up', (request) => request.socket.destroy()],
    [
      'never ends',
      (_, response) => {
        const more = () => {
          while (response.write('<a>'.repeat(50_000)));
        };
        response.writeHead(207, { 'content-type': 'application/xml' }).on('drain', more);
        more();
      },
    ],
  ])('is told, and changes nothing, where it %s', async (_, answer) => {
    await instead(answer);
    const told = await connect(MARIT, 'odd');
    expect(told.status).toBeGreaterThanOrEqual(400);
    expect(await messageOf(told)).toMatch(/drive|folder/i);
    expect(await server.db('drive_accounts')).toEqual([]);
  });
});
