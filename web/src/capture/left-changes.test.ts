import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import { NO_HISTORY } from '@kite-trail/core/formats/history-coding';
import type { LessonId, PageId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { freshDevice } from '../testing/fresh-device';
import type { JournalChanges } from './journal';
import { ChangesKeeper, sendLeftChanges } from './left-changes';

const lesson = 'lesson-one' as LessonId;
const drop = (page: string): Mark => ({ kind: 'drop-page', page: page as PageId, atSamples: 0 });

/** Web Locks (W3C) as far as they are used here; `release` stands for a window that goes. */
function fakeLocks() {
  const held = new Set<string>();
  return {
    release: (window: string) => held.delete(`kite-trail-window-${window}`),
    request: async (name: string, _: object, use: (lock: object | null) => Promise<unknown> | null): Promise<void> => {
      if (held.has(name)) return void (await use(null));
      held.add(name);
      await use({});
      held.delete(name);
    },
  };
}

let locks: ReturnType<typeof fakeLocks>;

beforeEach(() => {
  freshDevice();
  locks = fakeLocks();
  vi.stubGlobal('navigator', { locks });
});

async function leftAt(id: LessonId, window: string): Promise<JournalChanges[]> {
  const left: JournalChanges[] = [];
  await sendLeftChanges(id, window, async (one) => void left.push(one));
  return left;
}

describe('changes that a window leaves behind', () => {
  it('are handed over once, as they were last, when the window is gone', async () => {
    const keeper = new ChangesKeeper(lesson, 'window-one');
    keeper.keep(4, [drop('page-one')], NO_HISTORY);
    keeper.keep(4, [drop('page-one'), drop('page-two')], NO_HISTORY);
    await keeper.settled();
    expect(await leftAt(lesson, 'window-two')).toEqual([]);
    locks.release('window-one');
    const [left, ...more] = await leftAt(lesson, 'window-two');
    expect(more).toEqual([]);
    expect(left.revision).toBe(4);
    expect(decodeMarks(left.marks)).toEqual([drop('page-one'), drop('page-two')]);
    expect(await leftAt(lesson, 'window-two')).toEqual([]);
  });

  it('belong to their lesson, and are forgotten once saved', async () => {
    const keeper = new ChangesKeeper(lesson, 'window-one');
    keeper.keep(1, [drop('page-one')], NO_HISTORY);
    await keeper.settled();
    locks.release('window-one');
    expect(await leftAt('another-lesson' as LessonId, 'window-two')).toEqual([]);
    keeper.forget();
    await keeper.settled();
    expect(await leftAt(lesson, 'window-two')).toEqual([]);
  });

  it('stay when they cannot be handed over', async () => {
    const keeper = new ChangesKeeper(lesson, 'window-one');
    keeper.keep(1, [drop('page-one')], NO_HISTORY);
    await keeper.settled();
    locks.release('window-one');
    await expect(
      sendLeftChanges(lesson, 'window-two', () => Promise.reject(new Error('no network'))),
    ).rejects.toThrow();
    locks.release('window-one');
    expect(await leftAt(lesson, 'window-two')).toHaveLength(1);
  });
});
