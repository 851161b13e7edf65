import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { encodeHistory, NO_HISTORY } from '@kite-trail/core/formats/history-coding';
import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { LessonId, PageId, PieceId, TakeId } from '@kite-trail/core/lesson/ids';
import type { Change, Mark } from '@kite-trail/core/lesson/mark';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useOutbox } from '../app/outbox';
import type { Owed } from '../outbox/entry';
import type { Answer } from '../outbox/school';
import { api } from '../server/api';
import { toBase64 } from '../server/base64';
import { Refused, Unreachable } from '../server/call';
import { atSchool } from '../testing/at-school';
import { freshDevice } from '../testing/fresh-device';
import { editionOf, madeLesson, madeTake } from '../testing/made-lesson';
import { useChanges } from './changes';
import { useDesk } from './desk';
import { useFiles } from './files';
import { useLesson } from './lesson';
import { useOtherWindows } from './other-windows';

const ID = 'lesson-of-knots' as LessonId;
const PAGE = 'page-one-of-us' as PageId;
const TAKE = 'take-of-knots' as TakeId;

const lift = (name: string): Mark => ({ kind: 'lift', page: PAGE, pieceIds: [name as PieceId], atSamples: 0 });
const bytesOf = (marks: readonly Mark[]) => toBase64(encodeMarks(marks));
const document = (more: object = {}): LessonDocument => madeLesson([PAGE], { edit: { n: 0, madeAt: '' }, ...more });
const recorded = {
  takes: [madeTake(TAKE)],
  edition: editionOf([{ kind: 'play', take: TAKE, fromSamples: 0, toSamples: 480_000, pace: 1 }]),
  edit: { n: 1, madeAt: 'once' },
};
const changesOf = (marks: readonly Mark[], revision = 1): Owed => ({
  kind: 'changes',
  revision,
  payload: { marks: encodeMarks(marks), history: encodeHistory(NO_HISTORY) },
});
const page = (id: string): Change => ({ kind: 'add-page', page: wideSquaredPage(id as PageId), after: PAGE });
const named = (marks: readonly Mark[]) => marks.map((mark) => (mark.kind === 'lift' ? mark.pieceIds[0] : mark.kind));

/** A lesson that has been opened, with what is done on its desk. */
async function opened() {
  const lesson = useLesson();
  await lesson.open(ID);
  return { lesson, desk: useDesk(), changes: useChanges() };
}

/** What the school does with the next things it is sent. */
let send: (owed: Owed) => Promise<Answer>;

beforeEach(async () => {
  freshDevice();
  vi.spyOn(api, 'takeMarks').mockResolvedValue(encodeMarks([]));
  // Pictures are hashed in a worker, and news come from a server: there is neither here.
  vi.spyOn(useFiles(), 'open').mockResolvedValue();
  vi.spyOn(useOtherWindows(), 'listen').mockReturnValue();
  await atSchool(({ head }, payload) => send({ ...head, payload } as Owed));
});

describe('a lesson that is opened', () => {
  it('shows what the school could not take yet on top of what it has', async () => {
    send = () => Promise.reject(new Unreachable());
    vi.spyOn(api, 'lesson').mockResolvedValue(document({ ...recorded, between: bytesOf([lift('there')]) }));
    await (await useOutbox().open()).add(ID, changesOf([lift('owed')]));
    const lesson = useLesson();
    await lesson.open(ID);
    expect(named(lesson.between)).toEqual(['there', 'owed']);
    expect(useDesk().scene).not.toBeNull();
  });

  it('opens when the school can be reached again, and says meanwhile why it does not', async () => {
    vi.useFakeTimers();
    const lesson = useLesson();
    const asked = vi.spyOn(api, 'lesson').mockRejectedValue(new Unreachable());
    const opening = lesson.open(ID);
    await vi.advanceTimersByTimeAsync(20_000);
    expect(asked.mock.calls.length).toBeGreaterThan(3);
    expect(lesson.waitsFor).toMatch('The server cannot be reached.');
    asked.mockResolvedValue(document());
    await vi.advanceTimersByTimeAsync(4000);
    await opening;
    expect([lesson.waitsFor, lesson.document?.id]).toEqual([null, ID]);
    vi.useRealTimers();
  });

  it('is not opened where the school refuses it', async () => {
    vi.spyOn(api, 'lesson').mockRejectedValue(new Refused(404, 'no-such-lesson', 'There is no such lesson.'));
    await expect(useLesson().open(ID)).rejects.toThrow('There is no such lesson.');
  });

  it('has what arrived at the school while it was being opened, before anything is recorded upon it', async () => {
    let arrive = () => {};
    const arrived = new Promise<void>((resolve) => (arrive = resolve));
    send = () => arrived.then(() => ({ to: 'changes', revision: 2, merged: false }));
    const outbox = await useOutbox().open();
    await outbox.add(ID, changesOf([lift('late')]));
    // What has to wait for something holds up nobody who opens the lesson.
    vi.spyOn(outbox, 'settled').mockResolvedValue();
    const isOwed = () => outbox.isOwed(ID, () => true);
    vi.spyOn(api, 'lesson').mockImplementation(async () => {
      if (!isOwed()) return document({ ...recorded, revision: 2, between: bytesOf([lift('late')]) });
      // The school says how the lesson is before it takes in what is on its way.
      arrive();
      await expect.poll(isOwed).toBe(false);
      return document(recorded);
    });
    const lesson = useLesson();
    await lesson.open(ID);
    expect(named(lesson.between)).toEqual(['late']);
    expect(lesson.revision).toBe(2);
  });
});

describe('what is changed on pages that turn out to be recorded upon', () => {
  it('begins the next take, as it will at the school', async () => {
    send = () => Promise.reject(new Unreachable());
    vi.spyOn(api, 'lesson').mockResolvedValue(document());
    const { lesson, desk, changes } = await opened();
    expect(changes.destination).toBe('pages');
    desk.change(page('page-drawn-here'));
    expect([lesson.base!.pages.length, lesson.between.length]).toEqual([2, 0]);
    // A window that is gone had left a recording.
    await lesson.acceptTake(document(recorded), TAKE);
    expect([lesson.base!.pages.length, lesson.between.map(({ kind }) => kind)]).toEqual([1, ['add-page']]);
    expect(desk.scene!.pages).toHaveLength(2);
  });
});

describe('a take', () => {
  it('does not claim to begin on what other windows have changed and is not shown yet', async () => {
    send = async () => ({ to: 'changes', revision: 3, merged: true });
    const asked = vi.spyOn(api, 'lesson').mockResolvedValue(document());
    const { lesson, desk } = await opened();
    asked.mockRejectedValue(new Unreachable());
    desk.change(page('page-drawn-here'));
    await lesson.save();
    expect(lesson.revision).toBe(1);
    // What the school had said before that is not taken for how the lesson stands.
    await lesson.accept(document());
    expect(lesson.base!.pages).toHaveLength(2);
    asked.mockResolvedValue(document({ revision: 3 }));
    await lesson.refresh();
    expect(lesson.revision).toBe(3);
  });
});

describe('what the school says', () => {
  it('is taken over in the order in which it was said', async () => {
    vi.spyOn(api, 'lesson').mockResolvedValue(document());
    const { lesson } = await opened();
    const marks = vi.spyOn(api, 'takeMarks');
    let read = () => {};
    marks.mockReturnValueOnce(new Promise((resolve) => (read = () => resolve(encodeMarks([])))));
    const second = madeTake('take-of-bends' as TakeId);
    const first = lesson.accept(document({ ...recorded, between: bytesOf([lift('before')]) }));
    const then = lesson.accept(document({ ...recorded, takes: [second], edit: { n: 2, madeAt: 'twice' } }));
    read();
    await Promise.all([first, then]);
    expect(lesson.document!.edit.n).toBe(2);
    expect(lesson.between).toEqual([]);
  });

  it('is asked anew where it has answered something since it said it', async () => {
    send = async () => ({ to: 'changes', revision: 2, merged: false });
    const asked = vi.spyOn(api, 'lesson').mockResolvedValue(document(recorded));
    const { lesson, desk } = await opened();
    asked.mockImplementationOnce(async () => {
      desk.change(page('page-drawn-here'));
      await lesson.save();
      return document(recorded);
    });
    asked.mockResolvedValue(document({ ...recorded, revision: 2, between: bytesOf([lift('of-all')]) }));
    await lesson.refresh();
    await expect.poll(() => named(lesson.between)).toEqual(['of-all']);
  });
});
