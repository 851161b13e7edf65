import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import { NO_HISTORY } from '@kite-trail/core/formats/history-coding';
import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { AssetId, LessonId, PageId, PieceId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FakeSchool } from '../testing/fake-school';
import { ChangesDraft } from './changes-draft';
import { OutboxLog } from './log';
import { Outbox } from './outbox';

const LESSON = 'lesson-one' as LessonId;
const PAGE = 'page-one' as PageId;

const lift = (name: string): Mark => ({ kind: 'lift', page: PAGE, pieceIds: [name as PieceId], atSamples: 0 });
const moved = (byPt: number): Mark => ({
  kind: 'transform',
  page: PAGE,
  pieceIds: ['knot' as PieceId],
  matrix: [1, 0, 0, 1, byPt, 0],
  atSamples: 0,
});

let log: OutboxLog;
let outbox: Outbox;
let school: FakeSchool;
let draft: ChangesDraft;

beforeEach(async () => {
  vi.stubGlobal('indexedDB', new IDBFactory());
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
  school = new FakeSchool();
  log = await OutboxLog.open();
  outbox = new Outbox(log, school, { window: 'window-one', inherit: async () => {} });
  await outbox.signedIn('teacher-one');
  draft = new ChangesDraft(outbox, LESSON);
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const written = async (): Promise<Mark[]> => {
  const kept = await outbox.owedBy(LESSON);
  return kept.flatMap(({ payload }) => decodeMarks((payload as { marks: Uint8Array }).marks));
};

describe('changes of pages', () => {
  it('are kept here almost at once, and sent together a little later', async () => {
    draft.add(1, lift('knot'), NO_HISTORY);
    draft.add(1, lift('bend'), NO_HISTORY);
    vi.advanceTimersByTime(50);
    await expect.poll(written).toEqual([lift('knot'), lift('bend')]);
    expect(school.arrived).toEqual([]);
    vi.advanceTimersByTime(600);
    await expect.poll(() => school.arrived).toEqual(['mark knot', 'mark bend']);
    expect(outbox.status().owed.size).toBe(0);
  });

  it('that follow one another while something is dragged are one', async () => {
    for (const byPt of [5, 6, 7]) draft.add(1, moved(byPt), NO_HISTORY);
    vi.advanceTimersByTime(50);
    await expect.poll(written).toEqual([moved(18)]);
  });

  it('made while earlier ones are being handed over come after them, and none is lost', async () => {
    const told: boolean[] = [];
    draft.onGathering = (is) => told.push(is);
    draft.add(1, lift('knot'), NO_HISTORY);
    const closing = draft.close();
    draft.add(1, lift('bend'), NO_HISTORY);
    await closing;
    await draft.close();
    await outbox.settled(LESSON);
    expect(school.arrived).toEqual(['mark knot', 'mark bend']);
    expect(told.at(-1)).toBe(false);
  });

  it('that need a file come after it, also where others were being gathered when it was brought in', async () => {
    draft.add(1, lift('knot'), NO_HISTORY);
    vi.advanceTimersByTime(50);
    await expect.poll(written).toEqual([lift('knot')]);
    school.fates = ['lost'];
    await draft.addFile({ kind: 'file', asset: 'buoy' as AssetId, name: 'buoy.png', payload: new Blob(['buoy']) });
    draft.add(1, lift('picture'), NO_HISTORY);
    await draft.close();
    vi.runAllTimers();
    await expect.poll(() => school.arrived).toHaveLength(3);
    expect(school.arrived).toContain('mark picture');
    expect(school.arrived.indexOf('file buoy')).toBeLessThan(school.arrived.indexOf('mark picture'));
  });

  it('left in the middle are whole for the next window', async () => {
    draft.add(1, lift('knot'), NO_HISTORY);
    void draft.close();
    outbox.stop();
    await expect.poll(async () => (await log.entries()).length).toBe(1);
    expect(school.arrived).toEqual([]);
    expect(await written()).toEqual([lift('knot')]);
  });
});
