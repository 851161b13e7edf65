import { NOTHING_EDITED } from '@kite-trail/core/trail/edition';
import type { LessonId, PageId, TakeId } from '@kite-trail/core/lesson/ids';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { lesson } from '@kite-trail/core/contract/lesson';
import { Refused } from '../server/api';
import { freshDevice } from '../testing/fresh-device';
import { Journal, type JournalTake } from './journal';
import { Uploader, type UploadState } from './uploader';

const TAKE: JournalTake = {
  id: 'take' as TakeId,
  lesson: 'lesson' as LessonId,
  hasSound: true,
  plan: { kind: 'carry-on' } as const,
  beganAtMs: 0,
  ended: true,
};
const LESSON = lesson.parse({
  id: 'lesson-knots',
  title: 'Knots',
  className: '',
  revision: 1,
  pages: [
    {
      page: wideSquaredPage('page-knots' as PageId),
      pieces: '',
    },
  ],
  between: '',
  history: '',
  takes: [],
  versions: [],
  edition: NOTHING_EDITED,
  edit: { n: 0, madeAt: '' },
  canUndoEdit: false,
  canRedoEdit: false,
  link: null,
});

/** A server of which the tests decide how it fares. */
class FakeServer {
  readonly parts = new Map<number, Uint8Array>();
  begun = 0;
  ended: unknown = null;
  /** Answers to give instead, one request each. */
  readonly trouble: (number | 'no-network')[] = [];

  readonly fetch = async (path: string, { method, body }: { method: string; body?: Blob | Uint8Array | string }) => {
    const trouble = this.trouble.shift();
    if (trouble === 'no-network') throw new TypeError('Failed to fetch');
    if (trouble) return Response.json({ code: 'no', message: `Refused with ${trouble}.` }, { status: trouble });
    if (method === 'GET') return Response.json({ parts: [...this.parts.keys()] });
    if (method === 'PUT') this.parts.set(Number(path.split('/').at(-1)), new Uint8Array(body as Uint8Array));
    else if (path.endsWith('/takes')) this.begun++;
    else {
      this.ended = JSON.parse(body as string);
      return Response.json(LESSON);
    }
    return new Response(null, { status: 204 });
  };
}

let server: FakeServer;
let journal: Journal;
let states: UploadState[];

beforeEach(async () => {
  freshDevice();
  server = new FakeServer();
  vi.stubGlobal('fetch', server.fetch);
  journal = await Journal.open();
  states = [];
  await journal.keepTake(TAKE);
  for (const n of [0, 1, 2]) await journal.keepPart(TAKE.id, n, Uint8Array.of(n, n));
});
afterEach(() => vi.unstubAllGlobals());

function uploaderOf(take = TAKE, available = 3): Uploader {
  const uploader = new Uploader(journal, take, available);
  uploader.onState = (state) => {
    states.push(state);
    // A wait is cut short, as when the network comes back or somebody signs in.
    if (state === 'waiting-for-network' || state === 'waiting-for-sign-in') setTimeout(() => uploader.retry());
  };
  return uploader;
}

describe('handing a take over', () => {
  it('sends every part, ends the take and only then forgets it here', async () => {
    const uploader = uploaderOf();
    const safe: number[] = [];
    uploader.onSafe = (parts) => safe.push(parts);
    uploader.ended(3);
    expect((await uploader.run())?.title).toBe('Knots');
    expect([...server.parts.values()].map((part) => [...part])).toEqual([
      [0, 0],
      [1, 1],
      [2, 2],
    ]);
    expect(safe).toEqual([1, 2, 3]);
    expect(server.ended).toEqual({ parts: 3, recover: false, plan: TAKE.plan });
    expect(await journal.takes()).toEqual([]);
    expect(states.at(-1)).toBe('done');
  });

  it('sends only what the server does not have, and says that a broken-off take is recovered', async () => {
    server.parts.set(0, Uint8Array.of(9));
    const uploader = uploaderOf({ ...TAKE, ended: false });
    uploader.ended(3);
    await uploader.run();
    expect(server.parts.get(0)).toEqual(Uint8Array.of(9));
    expect([...server.parts.keys()]).toEqual([0, 1, 2]);
    expect(server.ended).toEqual({ parts: 3, recover: true, plan: TAKE.plan });
  });

  it.each([
    ['a lost network', 'no-network', 'waiting-for-network'],
    ['a server that starts again', 503, 'waiting-for-network'],
    ['a session that expired', 401, 'waiting-for-sign-in'],
  ] as const)('waits through %s and loses nothing', async (_, trouble, state) => {
    server.trouble.push(trouble, trouble);
    const uploader = uploaderOf();
    uploader.ended(3);
    await uploader.run();
    expect(states.filter((one) => one === state)).toHaveLength(2);
    expect(server.parts.size).toBe(3);
    expect(await journal.takes()).toEqual([]);
  });

  it('hands over ten minutes recorded without a network, whole and in order', async () => {
    const parts = 1000;
    for (let n = 0; n < parts; n++) await journal.keepPart(TAKE.id, n, Uint8Array.of(n % 256, n >> 8));
    server.trouble.push('no-network', 'no-network', 'no-network');
    const uploader = uploaderOf();
    uploader.ended(parts);
    const running = uploader.run();
    await vi.waitFor(() => expect(states).toContain('waiting-for-network'));
    uploader.retry();
    await running;
    expect([...server.parts.keys()]).toEqual(Array.from({ length: parts }, (_, n) => n));
    for (const [n, bytes] of server.parts) expect([...bytes]).toEqual([n % 256, n >> 8]);
    expect(server.ended).toMatchObject({ parts });
  });

  it('stops at a refusal with its message, and keeps the take on the device', async () => {
    server.trouble.push(413);
    const uploader = uploaderOf();
    uploader.ended(3);
    await expect(uploader.run()).rejects.toThrow(Refused);
    expect(states).toEqual([{ failed: 'Refused with 413.' }]);
    expect(await journal.parts(TAKE.id)).toHaveLength(3);
  });

  it('sends while the take goes on, and goes to sleep in between', async () => {
    const uploader = uploaderOf(TAKE, 1);
    const running = uploader.run();
    await vi.waitFor(() => expect(server.parts.size).toBe(1));
    uploader.added(1);
    await vi.waitFor(() => expect(server.parts.size).toBe(2));
    expect(server.ended).toBeNull();
    uploader.ended(3);
    await running;
    expect(server.parts.size).toBe(3);
    expect(server.begun).toBe(1);
  });

  it('lets go when it is stopped', async () => {
    const uploader = uploaderOf(TAKE, 1);
    const running = uploader.run();
    await vi.waitFor(() => expect(server.parts.size).toBe(1));
    uploader.stop();
    expect(await running).toBeNull();
    expect(await journal.parts(TAKE.id)).toHaveLength(3);
  });
});
