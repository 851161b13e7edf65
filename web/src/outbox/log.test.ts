import 'fake-indexeddb/auto';
import { IDBFactory, IDBObjectStore } from 'fake-indexeddb';
import { encodeHistory, NO_HISTORY } from '@kite-trail/core/formats/history-coding';
import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { LessonId, TakeId } from '@kite-trail/core/lesson/ids';
import { NOTHING_EDITED } from '@kite-trail/core/trail/edition';
import { openDB } from 'idb';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { turn } from '../testing/turn';
import { FakeSchool } from '../testing/fake-school';
import { takeInEarlierEdits } from './earlier-edits';
import { OutboxLog } from './log';
import { Outbox } from './outbox';
import type { WindowLocks } from './window-locks';

const LESSON = 'lesson-one' as LessonId;
const PLAN = { kind: 'carry-on' } as const;

beforeEach(() => void vi.stubGlobal('indexedDB', new IDBFactory()));
afterEach(() => {
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

const file = (name: string) => ({ kind: 'file', asset: name as never, name, payload: new Blob([name]) }) as const;

/** A window after which no other one is there. */
const lastWindow: WindowLocks = {
  window: 'window-now',
  inherit: async (windows, inheritFrom) => {
    for (const one of windows) await inheritFrom(one, true);
  },
};

async function opened(school = new FakeSchool()): Promise<{ log: OutboxLog; outbox: Outbox; school: FakeSchool }> {
  const log = await OutboxLog.open();
  const outbox = new Outbox(log, school, lastWindow, () => 0);
  await outbox.signedIn('teacher-one');
  return { log, outbox, school };
}

/** What version 2 of this program left on a device. */
async function leftByVersion2(): Promise<void> {
  const db = await openDB('kite-trail-journal', 2, {
    upgrade(journal) {
      journal.createObjectStore('takes', { keyPath: 'id' });
      journal.createObjectStore('parts', { keyPath: ['take', 'n'] });
      journal.createObjectStore('files', { keyPath: ['lesson', 'asset'] });
      journal.createObjectStore('changes', { keyPath: ['lesson', 'window'] });
    },
  });
  const take = { lesson: LESSON, hasSound: true };
  await db.put('takes', { ...take, id: 'broke-off', plan: PLAN, beganAtMs: 2, ended: false });
  // Those of version 1 did not say where they were to play.
  await db.put('takes', { ...take, id: 'had-ended', ended: true });
  for (const [id, count] of [
    ['broke-off', 2],
    ['had-ended', 3],
  ] as const) {
    for (let n = 0; n < count; n++) await db.put('parts', { take: id, n, bytes: Uint8Array.of(n) });
  }
  await db.put('files', { lesson: LESSON, asset: 'chart', name: 'chart.png', blob: new Blob(['chart']) });
  const [marks, history] = [
    encodeMarks([{ kind: 'turn', page: 'page-two' as never, atSamples: 0 }]),
    encodeHistory(NO_HISTORY),
  ];
  await db.put('changes', { lesson: LESSON, window: 'window-before', revision: 1, marks, history });
  db.close();
}

describe('what an earlier version kept', () => {
  it('is owed from now on, and arrives', async () => {
    await leftByVersion2();
    const { outbox, school } = await opened();
    await outbox.settled(LESSON);
    expect(outbox.status().owed.size).toBe(0);
    expect([...school.arrived].sort()).toEqual(
      [
        'file chart',
        'mark turn',
        'take had-ended',
        ...[0, 1, 2].map((n) => `part of had-ended: ${n}`),
        'end of had-ended',
        'take broke-off',
        ...[0, 1].map((n) => `part of broke-off: ${n}`),
        'end of broke-off',
      ].sort(),
    );
    const at = (name: string) => school.arrived.indexOf(name);
    expect(at('file chart')).toBeLessThan(at('mark turn'));
    expect(at('end of had-ended')).toBeLessThan(at('end of broke-off'));
  });
});

describe('an edit that version 2 kept in the local storage', () => {
  it('is owed from now on; what cannot be read stays as it is', async () => {
    const { outbox, school } = await opened();
    const edition = { ...NOTHING_EDITED, chapters: [{ take: 'take-0001' as TakeId, atSamples: 0, title: 'Bends' }] };
    const good = JSON.stringify({ from: school.edit, edition });
    const kept = new Map([
      ['kite-trail-edit-lesson-one', good],
      ['kite-trail-edit-lesson-two', '{"from":'],
      ['kite-trail-hand', 'left'],
    ]);
    await takeInEarlierEdits(outbox, {
      length: kept.size,
      key: (i) => [...kept.keys()][i],
      getItem: (key) => kept.get(key) ?? null,
      removeItem: (key) => void kept.delete(key),
    } as Storage);
    await outbox.settled(LESSON);
    expect(school.arrived).toEqual(['step Bends']);
    expect([...kept.keys()]).toEqual(['kite-trail-edit-lesson-two', 'kite-trail-hand']);
  });
});

describe('a window of an earlier version', () => {
  it('that holds on to what is kept is not waited for longer than five seconds; what is made now goes by memory', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
    const earlier = await openDB('kite-trail-journal', 2);
    const opening = OutboxLog.open();
    await turn();
    vi.advanceTimersByTime(5000);
    const log = await opening;
    vi.useRealTimers();
    const told = (log.onFull = vi.fn());
    const school = new FakeSchool();
    const outbox = new Outbox(log, school, lastWindow);
    await outbox.signedIn('teacher-one');
    await outbox.add(LESSON, file('chart'));
    await outbox.settled(LESSON);
    expect(told).toHaveBeenCalled();
    expect(school.arrived).toEqual(['file chart']);
    earlier.close();
  });
});

describe('a device without room', () => {
  it('says so, and still sends all that is made', async () => {
    const school = new FakeSchool();
    const { log, outbox } = await opened(school);
    const told = vi.fn();
    log.onFull = told;
    vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
      throw new DOMException('No room is left.', 'QuotaExceededError');
    });
    const take = 'take-one' as TakeId;
    await outbox.add(LESSON, { kind: 'take', take, hasSound: true, plan: PLAN, beganAtMs: 0, payload: null });
    await outbox.add(LESSON, { kind: 'part', take, n: 0, payload: Uint8Array.of(7) });
    expect(told).toHaveBeenCalled();
    expect(await outbox.parts(take)).toEqual([Uint8Array.of(7)]);
    await outbox.add(LESSON, { kind: 'end', take, parts: 1, recover: false, plan: PLAN, payload: null });
    await outbox.settled(LESSON);
    expect(school.arrived).toEqual(['take take-one', 'part of take-one: 0', 'end of take-one']);
  });

  it('that keeps nothing at all is told when something is made, and sends it', async () => {
    vi.stubGlobal('indexedDB', undefined);
    const { log, outbox, school } = await opened();
    const told = vi.fn();
    log.onFull = told;
    await outbox.add(LESSON, file('chart'));
    await outbox.settled(LESSON);
    expect(told).toHaveBeenCalled();
    expect(school.arrived).toEqual(['file chart']);
  });
});

describe('whoever hears of an answer', () => {
  it('and fails at it holds up nothing', async () => {
    const { outbox, school } = await opened();
    outbox.onAnswer = () => {
      throw new Error('This screen is gone.');
    };
    await outbox.add(LESSON, file('chart'));
    await outbox.add(LESSON, file('knot'));
    await expect.poll(() => school.arrived, { timeout: 5000 }).toEqual(['file chart', 'file knot']);
    await expect.poll(() => outbox.status().owed.size).toBe(0);
  });
});

describe('what one teacher has made', () => {
  it('is neither sent nor shown while another one is signed in, and waits for the first', async () => {
    const { outbox, school } = await opened();
    outbox.signedOut();
    await outbox.signedIn('teacher-one');
    school.fates = ['lost'];
    await outbox.add(LESSON, file('chart'));
    await outbox.settled(LESSON);
    outbox.signedOut();
    await outbox.signedIn('teacher-two');
    outbox.retry();
    await turn();
    expect([school.arrived, outbox.status().owed.size]).toEqual([[], 0]);
    outbox.signedOut();
    await outbox.signedIn('teacher-one');
    await expect.poll(() => school.arrived).toEqual(['file chart']);
  });
});

describe('what was read back damaged', () => {
  it('is set aside also where it was changes that are refused', async () => {
    const school = new FakeSchool(() => true);
    const { outbox } = await opened(school);
    const payload = { marks: encodeMarks([]), history: encodeHistory(NO_HISTORY) };
    const key = await outbox.add(LESSON, { kind: 'changes', revision: 1, payload }, { isHeld: true });
    const db = await openDB('kite-trail-journal');
    await db.delete('payloads', key);
    db.close();
    outbox.release(key);
    await expect.poll(() => outbox.status().setAside).toMatchObject([{ kind: 'changes' }]);
  });

  it('is set aside and told, and costs itself alone', async () => {
    const school = new FakeSchool();
    school.fates = ['lost'];
    const { log, outbox } = await opened(school);
    const key = await outbox.add(LESSON, file('chart'), { isHeld: true });
    const db = await openDB('kite-trail-journal');
    await db.delete('payloads', key);
    db.close();
    outbox.release(key);
    await outbox.add(LESSON, file('knot'));
    await expect.poll(() => school.arrived).toEqual(['file knot']);
    expect(outbox.status().setAside).toMatchObject([{ kind: 'file', name: 'chart' }]);
    expect(outbox.status().setAside[0].why).toMatch(/can no longer read/);
    log.close();
  });

  it('is forgotten with their account, also what other windows have left, and nothing of anybody else', async () => {
    const { log, outbox, school } = await opened();
    school.fates = ['lost'];
    await outbox.add(LESSON, file('chart'));
    outbox.signedOut();
    await outbox.signedIn('teacher-two');
    school.fates = ['lost'];
    await outbox.add(LESSON, file('knot'));
    await outbox.forgetAll();
    expect(outbox.isOwed(LESSON, ({ teacher }) => teacher === 'teacher-two')).toBe(false);
    expect((await log.entries()).map(({ teacher }) => teacher)).toEqual(['teacher-one']);
  });
});
