import { idempotencyKey } from '@kite-trail/core/contract/protocol';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { call, Refused, Unreachable } from './call';

type Asked = { path: string; key: string | undefined };

let asked: Asked[];
let answers: (() => Response | Promise<Response>)[];

beforeEach(() => {
  asked = [];
  answers = [];
  vi.stubGlobal('fetch', async (path: string, { headers }: { headers: Record<string, string> }) => {
    asked.push({ path, key: headers[idempotencyKey.HEADER] });
    return (answers.shift() ?? (() => Response.json({})))();
  });
});

const lost = () => {
  throw new TypeError('Failed to fetch');
};
const keys = () => asked.map(({ key }) => key);

describe('a request that changes something', () => {
  it('comes again with its key when its answer was lost, until there is one', async () => {
    answers = [lost, lost];
    for (let n = 0; n < 2; n++) await expect(call('POST', '/lessons', { title: 'Knots' })).rejects.toThrow(Unreachable);
    await call('POST', '/lessons', { title: 'Knots' });
    await call('POST', '/lessons', { title: 'Knots' });
    const [first, second, third, fourth] = keys();
    expect([second, third]).toEqual([first, first]);
    expect(fourth).not.toBe(first);
  });

  it('has a key of its own where it asks for something else, or was refused', async () => {
    answers = [lost, () => Response.json({ code: 'no', message: 'No.' }, { status: 409 })];
    await expect(call('POST', '/lessons', { title: 'Knots' })).rejects.toThrow(Unreachable);
    await expect(call('POST', '/lessons', { title: 'Bends' })).rejects.toThrow(Refused);
    await call('POST', '/lessons', { title: 'Bends' });
    expect(new Set(keys()).size).toBe(3);
  });

  it('counts an answer that breaks off as lost', async () => {
    const broken = new ReadableStream({ pull: (body) => body.error(new TypeError('The connection broke.')) });
    answers = [() => new Response(broken)];
    await expect(call('POST', '/lessons', { title: 'Knots' })).rejects.toThrow(Unreachable);
    await call('POST', '/lessons', { title: 'Knots' });
    expect(keys()[1]).toBe(keys()[0]);
  });

  it('counts what it is told as lost where that breaks off, too', async () => {
    const broken = new ReadableStream({ pull: (body) => body.error(new TypeError('The connection broke.')) });
    answers = [() => new Response(broken)];
    await expect(call('GET', '/lessons')).rejects.toThrow(Unreachable);
  });

  it('is told what the server says itself, and waits for it where only a proxy answers', async () => {
    const away = { status: 503 };
    answers = [
      () => Response.json({ code: 'older-page', message: 'Load it anew.' }, away),
      () => new Response('<h1>503</h1>', away),
    ];
    await expect(call('POST', '/lessons', { title: 'Knots' })).rejects.toThrow('Load it anew.');
    await expect(call('POST', '/lessons', { title: 'Knots' })).rejects.toThrow(Unreachable);
  });

  it('carries no key where it only reads', async () => {
    await call('GET', '/lessons');
    expect(keys()).toEqual([undefined]);
  });
});
