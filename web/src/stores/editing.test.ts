import type { EditState } from '@kite-trail/core/contract/edition';
import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { LessonId, PageId, TakeId } from '@kite-trail/core/lesson/ids';
import { cut } from '@kite-trail/core/trail/edit';
import type { Edition } from '@kite-trail/core/trail/edition';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { leftEdits } from '../capture/left-edits';
import { api, Refused, Unreachable } from '../server/api';
import { useEditing } from './editing';
import { useLesson } from './lesson';
import { editionOf, madeLesson, madeTake } from './made-lesson';

const SECOND = 48_000;
const TAKE = 'take-0001' as TakeId;
const LESSON = 'lesson-of-splices' as LessonId;
const whole = editionOf([{ kind: 'play', take: TAKE, fromSamples: 0, toSamples: 10 * SECOND, pace: 1 }]);

const lessonNow = (edition: Edition, n = 1) =>
  madeLesson(['page-one-of-us' as PageId], {
    id: LESSON,
    takes: [madeTake(TAKE)],
    edition,
    edit: { n, madeAt: `edit ${n}` },
    canUndoEdit: n > 1,
  });

/** A server that keeps every edition. */
class Server {
  editions: Edition[] = [whole];
  n = 1;

  state(): EditState {
    const { edition, edit, canUndoEdit, link } = lessonNow(this.editions[this.n - 1], this.n);
    return { edition, edit, canUndoEdit, canRedoEdit: this.n < this.editions.length, link };
  }
}

let server: Server;
const cutAt = (seconds: number) =>
  cut(useLesson().programme, { fromSamples: seconds * SECOND, toSamples: (seconds + 1) * SECOND }, 'keep');

beforeEach(async () => {
  server = new Server();
  vi.spyOn(api, 'takeMarks').mockResolvedValue(encodeMarks([]));
  vi.spyOn(api, 'edit').mockImplementation(async (_, from, edition) => {
    if (from.n !== server.n) throw new Refused(409, 'changed-elsewhere', 'This lesson was edited in another window.');
    server.editions = [...server.editions.slice(0, server.n), edition];
    server.n++;
    return server.state();
  });
  for (const [name, by] of [
    ['undoEdit', -1],
    ['redoEdit', 1],
  ] as const) {
    vi.spyOn(api, name).mockImplementation(async () => {
      server.n += by;
      return server.state();
    });
  }
  vi.spyOn(api, 'lesson').mockImplementation(async () => lessonNow(server.editions[server.n - 1], server.n));
  await useLesson().accept(lessonNow(whole));
});

describe('edits', () => {
  it('are shown at once, sent one after the other, and undone at once', async () => {
    const [lesson, editing] = [useLesson(), useEditing()];
    void editing.play(cutAt(2));
    void editing.play(cutAt(4));
    expect(lesson.lengthSamples).toBe(8 * SECOND);
    expect(server.n).toBe(1);
    editing.undo();
    expect(lesson.lengthSamples).toBe(9 * SECOND);
    await editing.sent();
    expect([server.n, server.editions.length]).toEqual([2, 3]);
    expect(lesson.edition).toEqual(server.editions[1]);
    expect(lesson.isEditing).toBe(false);
    editing.redo();
    expect(lesson.lengthSamples).toBe(8 * SECOND);
    await editing.sent();
    expect(lesson.edition).toEqual(server.editions[2]);
  });

  it('of an earlier visit are undone by what the server knows', async () => {
    server.editions.push({ ...whole, programme: cutAt(3) });
    server.n = 2;
    const [lesson, editing] = [useLesson(), useEditing()];
    await lesson.accept(lessonNow(server.editions[1], 2));
    editing.undo();
    await editing.sent();
    expect(lesson.lengthSamples).toBe(10 * SECOND);
    expect([editing.canUndo, editing.canRedo]).toEqual([false, true]);
  });

  it('wait for the network, and keep saying which edit they were made from', async () => {
    vi.useFakeTimers();
    const [lesson, editing] = [useLesson(), useEditing()];
    vi.mocked(api.edit).mockRejectedValueOnce(new Unreachable());
    const sent = editing.play(cutAt(2));
    await vi.advanceTimersByTimeAsync(150);
    expect(editing.waiting).toBe('network');
    expect(leftEdits.find(LESSON)?.edition.programme).toEqual(lesson.programme);
    // News of another window's edit arrives meanwhile.
    server.editions.push(whole);
    server.n = 2;
    await lesson.accept(lessonNow(whole, 2));
    expect(lesson.lengthSamples).toBe(9 * SECOND);
    await vi.advanceTimersByTimeAsync(3000);
    await sent;
    vi.useRealTimers();
    expect(editing.problem).toMatch(/another window/);
    expect(leftEdits.find(LESSON)).toBeNull();
    expect(server.editions).toHaveLength(2);
  });

  it('left on this device are sent at the next visit, unless the lesson was edited since', async () => {
    const [lesson, editing] = [useLesson(), useEditing()];
    const left = { ...whole, programme: cutAt(5) };
    leftEdits.keep(LESSON, { from: { n: 1, madeAt: 'edit 1' }, edition: left });
    await editing.handOverLeft(LESSON);
    expect(lesson.lengthSamples).toBe(9 * SECOND);
    expect(server.editions.at(-1)).toEqual(left);
    leftEdits.keep(LESSON, { from: { n: 1, madeAt: 'edit 1' }, edition: whole });
    await editing.handOverLeft(LESSON);
    expect(editing.problem).toMatch(/earlier visit/);
    expect(server.editions).toHaveLength(2);
  });

  it.each([
    ['at once', 10, 0],
    ['while they waited for the network', 150, 1],
  ])('of a lesson that was left %s are kept here, and never sent to another one', async (_, leftAfterMs, calls) => {
    vi.useFakeTimers();
    const [lesson, editing] = [useLesson(), useEditing()];
    vi.mocked(api.edit).mockClear().mockRejectedValueOnce(new Unreachable());
    void editing.play(cutAt(2));
    await vi.advanceTimersByTimeAsync(leftAfterMs);
    const other = 'lesson-of-others' as LessonId;
    lesson.close();
    await lesson.accept(
      madeLesson(['page-one-of-us' as PageId], { id: other, takes: [madeTake(TAKE)], edition: whole }),
    );
    await vi.advanceTimersByTimeAsync(4000);
    vi.useRealTimers();
    expect(api.edit).toHaveBeenCalledTimes(calls);
    expect(leftEdits.find(LESSON)?.edition.programme).not.toEqual(whole.programme);
    expect(leftEdits.find(other)).toBeNull();
    expect(lesson.lengthSamples).toBe(10 * SECOND);
  });
});
