import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import type { IncomingMessage } from 'node:http';
import { request as byHttp } from 'node:http';
import { request as byHttps } from 'node:https';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { PROTOCOL } from '@kite-trail/core/contract/protocol';
import type { LivePage } from '@kite-trail/core/contract/live';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { part, PASSWORD, startTestServer, type TestServer } from '../testing';

/** nginx, as Debian ships it, with the configuration that `docs` gives to schools. */
const NGINX = '/usr/sbin/nginx';
const CONFIGURATION = fileURLToPath(new URL('../../../docs/nginx.conf', import.meta.url));

/** Two machines that are not the proxy's, as far as one machine can have them. */
const A_STRANGER = '127.0.0.3';
const A_TEACHER = '127.0.0.2';

let server: TestServer;
let nginx: ChildProcess;
let port: number;

beforeAll(async () => {
  server = await startTestServer({ trustedProxies: '127.0.0.1' });
  await server.signedIn('mate@example.org');
  port = await freePort();
  const folder = mkdtempSync(join(tmpdir(), 'kite-trail-nginx-'));
  const [key, certificate] = [join(folder, 'school.key'), join(folder, 'school.pem')];
  execFileSync(
    'openssl',
    [
      'req',
      '-x509',
      '-newkey',
      'rsa:2048',
      '-nodes',
      '-subj',
      '/CN=localhost',
      '-days',
      '1',
      '-keyout',
      key,
      '-out',
      certificate,
    ],
    { stdio: 'ignore' },
  );
  const school = readFileSync(CONFIGURATION, 'utf8')
    .replace('listen 443', `listen 127.0.0.1:${port}`)
    .replace('/etc/ssl/school.pem', certificate)
    .replace('/etc/ssl/school.key', key)
    .replace('127.0.0.1:4400', `127.0.0.1:${server.port}`);
  const paths = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'].map((one) => `${one}_temp_path ${folder}/${one};`);
  const file = join(folder, 'nginx.conf');
  writeFileSync(
    file,
    `daemon off; pid ${folder}/pid; error_log stderr notice; events {} http { ${paths.join(' ')}\n${school} }`,
  );
  nginx = spawn(NGINX, ['-c', file, '-e', 'stderr'], { stdio: ['ignore', 'ignore', 'pipe'] });
  await new Promise<void>((resolve, reject) => {
    nginx.stderr!.on('data', (said: Buffer) => said.includes('start worker process') && resolve());
    nginx.once('exit', (code) => reject(new Error(`nginx ended with ${code}.`)));
  });
});
afterAll(async () => {
  const ended = once(nginx, 'exit');
  nginx.kill();
  await ended;
  await server.close();
});

async function freePort(): Promise<number> {
  const probe = createServer().listen(0, '127.0.0.1');
  await once(probe, 'listening');
  const { port: found } = probe.address() as { port: number };
  probe.close();
  await once(probe, 'close');
  return found;
}

interface Asked {
  from: string;
  /** Straight to the school, by http, past the proxy. */
  isDirect?: boolean;
  headers?: Record<string, string>;
  body?: Uint8Array | object;
}

async function ask(
  method: string,
  path: string,
  { from, isDirect = false, headers, body }: Asked,
): Promise<IncomingMessage> {
  const isBytes = body instanceof Uint8Array;
  const options = {
    method,
    host: '127.0.0.1',
    port: isDirect ? server.port : port,
    path: `/api${path}`,
    localAddress: from,
    rejectUnauthorized: false,
    headers: {
      [PROTOCOL.header]: String(PROTOCOL.version),
      'content-type': isBytes ? 'application/octet-stream' : 'application/json',
      ...headers,
    },
  };
  const request = isDirect ? byHttp(options) : byHttps(options);
  request.end(isBytes ? body : body && JSON.stringify(body));
  const [response] = (await once(request, 'response')) as [IncomingMessage];
  return response;
}

const read = async <T>(response: IncomingMessage): Promise<T> => {
  let text = '';
  for await (const chunk of response) text += chunk;
  return JSON.parse(text) as T;
};

const credentials = { email: 'mate@example.org', password: PASSWORD };
const signIn = (asked: Asked, password = PASSWORD) =>
  ask('POST', '/session', { ...asked, body: { ...credentials, password } });

describe('a school behind nginx', () => {
  it('knows that it is reached by https: cookies are for this address alone, and browsers stay with https', async () => {
    const answer = await signIn({ from: A_TEACHER });
    expect(answer.statusCode).toBe(200);
    const [cookie] = answer.headers['set-cookie']!;
    expect(cookie).toMatch(/^__Host-kite-trail=/);
    expect(cookie).toMatch(/Secure/);
    expect(answer.headers['strict-transport-security']).toMatch(/max-age=31536000; includeSubDomains/);
  });

  it('knows who asks by the proxy, and by nobody else', async () => {
    const forged = { 'x-forwarded-for': '203.0.113.7', 'x-forwarded-proto': 'https' };
    await signIn({ from: A_TEACHER, headers: forged }, 'a-wrong-password');
    expect(server.noted.at(-1)).toMatchObject({ event: 'sign-in refused', address: A_TEACHER });
    const direct = await signIn({ from: A_STRANGER, isDirect: true, headers: forged });
    const { event, address } = server.noted.at(-1)!;
    expect([event, address?.replace('::ffff:', '')]).toEqual(['signed in', A_STRANGER]);
    expect(direct.headers['set-cookie']![0]).toMatch(/^kite-trail=/);
  });

  it('counts mistakes by who asks, not by the proxy', async () => {
    const email = 'nobody@example.org';
    const guess = (from: string) => ask('POST', '/session', { from, body: { email, password: 'a-guess' } });
    const tries: number[] = [];
    for (let n = 0; n < 6; n++) tries.push((await guess(A_STRANGER)).statusCode!);
    expect(tries).toEqual([401, 401, 401, 401, 401, 429]);
    expect((await guess(A_TEACHER)).statusCode).toBe(401);
  });

  it('takes what a page sends, also much at once, and its news come at once', async () => {
    const cookie = (await signIn({ from: A_TEACHER })).headers['set-cookie']![0].split(';')[0];
    const asked = { from: A_TEACHER, headers: { cookie, origin: `https://127.0.0.1:${port}` } };
    const lesson = await read<LessonDocument>(await ask('POST', '/lessons', { ...asked, body: { title: 'Tides' } }));
    const news = await ask('GET', `/lessons/${lesson.id}/news`, asked);
    await once(news, 'data');
    const heard = once(news, 'data');
    await ask('PUT', `/lessons/${lesson.id}/name`, { ...asked, body: { title: 'Currents' } });
    expect(String(await heard)).toMatch(/^data: /);
    news.destroy();

    await ask('POST', `/lessons/${lesson.id}/takes`, { ...asked, body: { id: 'take-0001', hasSound: true } });
    const large = part(48_000, { sound: new Uint8Array(30_000_000).fill(7) });
    const kept = await ask('PUT', '/takes/take-0001/parts/0', { ...asked, body: large });
    expect(kept.statusCode).toBe(204);
  });

  it('lets sockets of live pages through', async () => {
    const cookie = (await signIn({ from: A_TEACHER })).headers['set-cookie']![0].split(';')[0];
    const asked = { from: A_TEACHER, headers: { cookie } };
    const { id } = await read<LessonDocument>(await ask('POST', '/lessons', { ...asked, body: { title: 'Live' } }));
    const { token } = await read<LivePage>(await ask('POST', `/lessons/${id}/live`, asked));
    const origin = `https://127.0.0.1:${port}`;
    const address = `wss://127.0.0.1:${port}/api/followed/${token}/follow`;
    const socket = new WebSocket(address, { origin, rejectUnauthorized: false });
    const [state] = (await once(socket, 'message')) as [Buffer];
    expect(JSON.parse(state.toString())).toMatchObject({ isShown: false });
    socket.terminate();
  });

  it('refuses what comes from a page of elsewhere', async () => {
    const cookie = (await signIn({ from: A_TEACHER })).headers['set-cookie']![0].split(';')[0];
    const headers = { cookie, origin: 'https://elsewhere.example' };
    const answer = await ask('POST', '/lessons', { from: A_TEACHER, headers, body: { title: 'Planted' } });
    expect(answer.statusCode).toBe(403);
  });
});
