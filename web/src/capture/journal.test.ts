import type { LessonId, TakeId } from '@kite-trail/core/lesson/ids';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { freshDevice } from '../testing/fresh-device';
import { Journal, type JournalTake } from './journal';

const take = (id: string): JournalTake => ({
  id: id as TakeId,
  lesson: 'lesson' as LessonId,
  hasSound: true,
  plan: { kind: 'carry-on' } as const,
  beganAtMs: 0,
  ended: false,
});
const bytes = (...values: number[]) => Uint8Array.from(values);

beforeEach(freshDevice);
afterEach(() => vi.restoreAllMocks());

/** The device refuses further data, as browsers do when a quota is used up. */
function fillDevice(): void {
  vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
    throw new DOMException('No room.', 'QuotaExceededError');
  });
}

describe('the journal', () => {
  it('finds a take and its parts in order after the page is opened again', async () => {
    const journal = await Journal.open();
    await journal.keepTake(take('a'));
    await journal.keepPart('a' as TakeId, 1, bytes(4, 5));
    await journal.keepPart('a' as TakeId, 0, bytes(1, 2, 3));
    const again = await Journal.open();
    expect(await again.takes()).toEqual([take('a')]);
    expect((await again.parts('a' as TakeId)).map(({ n, bytes: kept }) => [n, [...kept]])).toEqual([
      [0, [1, 2, 3]],
      [1, [4, 5]],
    ]);
    expect(await again.part('a' as TakeId, 2)).toBeUndefined();
  });

  it('gives takes in the order in which they were recorded, those of older versions first', async () => {
    const journal = await Journal.open();
    await journal.keepTake({ ...take('first'), beganAtMs: 1000 });
    await journal.keepTake({ ...take('a-later-one'), beganAtMs: 2000 });
    const { id, lesson, hasSound, ended } = take('older');
    await journal.keepTake({ id, lesson, hasSound, ended } as JournalTake);
    const takes = await journal.takes();
    expect(takes.map((one) => one.id)).toEqual(['older', 'first', 'a-later-one']);
    expect(takes[0].plan).toEqual({ kind: 'carry-on' });
  });

  it('tells whether it is there without making itself', async () => {
    expect(await Journal.exists()).toBe(false);
    expect(await Journal.exists()).toBe(false);
    await Journal.open();
    expect(await Journal.exists()).toBe(true);
  });

  it('forgets one take and keeps the others', async () => {
    const journal = await Journal.open();
    for (const id of ['a', 'b']) {
      await journal.keepTake(take(id));
      await journal.keepPart(id as TakeId, 0, bytes(7));
    }
    await journal.forget('a' as TakeId);
    expect(await journal.takes()).toEqual([take('b')]);
    expect(await journal.parts('a' as TakeId)).toEqual([]);
    expect(await journal.parts('b' as TakeId)).toHaveLength(1);
  });

  it('goes on in memory when the device is full, and says so', async () => {
    const journal = await Journal.open();
    const onFull = vi.fn();
    journal.onFull = onFull;
    await journal.keepTake(take('a'));
    expect(await journal.keepPart('a' as TakeId, 0, bytes(1))).toBe(true);
    fillDevice();
    expect(await journal.keepPart('a' as TakeId, 1, bytes(2))).toBe(false);
    expect(onFull).toHaveBeenCalledOnce();
    expect(await journal.part('a' as TakeId, 1)).toEqual(bytes(2));
    expect((await journal.parts('a' as TakeId)).map(({ n }) => n)).toEqual([0, 1]);
    expect(await (await Journal.open()).parts('a' as TakeId)).toHaveLength(1);
  });
});
