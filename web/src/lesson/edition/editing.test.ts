import type { EditState } from '@kite-trail/core/contract/edition';
import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { LessonId, PageId, TakeId } from '@kite-trail/core/lesson/ids';
import { cut } from '@kite-trail/core/trail/edit';
import type { Edition } from '@kite-trail/core/trail/edition';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { OutboxLog } from '../../outbox/log';
import type { Answer } from '../../outbox/school';
import { api } from '../../server/api';
import { Refused, Unreachable } from '../../server/call';
import { atSchool } from '../../testing/at-school';
import { useEditing } from './editing';
import { LessonScope, useOtherwise } from '../lesson-scope';
import { useLesson } from '../lesson';
import { editionOf, madeLesson, madeTake } from '../../testing/made-lesson';
import { useOutbox } from '../../app/outbox';

const SECOND = 48_000;
const TAKE = 'take-0001' as TakeId;
const LESSON = 'lesson-of-splices' as LessonId;
const OTHER = 'lesson-of-others' as LessonId;
const whole = editionOf([{ kind: 'play', take: TAKE, fromSamples: 0, toSamples: 10 * SECOND, pace: 1 }]);

const lessonNow = (edition: Edition, n = 1, id = LESSON) =>
  madeLesson(['page-one-of-us' as PageId], {
    id,
    takes: [madeTake(TAKE)],
    edition,
    edit: { n, madeAt: `edit ${n}` },
    canUndoEdit: n > 1,
  });

/** A school that keeps every edition. */
class School {
  editions: Edition[] = [whole];
  n = 1;
  isReachable = true;

  state(): EditState {
    const { edition, edit, canUndoEdit, link } = lessonNow(this.editions[this.n - 1], this.n);
    return { edition, edit, canUndoEdit, canRedoEdit: this.n < this.editions.length, link };
  }

  take(kind: string, from: number, edition: Edition): Answer {
    if (!this.isReachable) throw new Unreachable();
    if (from !== this.n) throw new Refused(409, 'changed-elsewhere', 'This lesson was edited in another window.');
    if (kind === 'edit') this.editions = [...this.editions.slice(0, this.n), edition];
    this.n += kind === 'undo' ? -1 : 1;
    return { to: 'step', state: this.state() };
  }
}

let school: School;
let send: Awaited<ReturnType<typeof atSchool>>;
const cutAt = (seconds: number) =>
  cut(useLesson().programme, { fromSamples: seconds * SECOND, toSamples: (seconds + 1) * SECOND }, 'keep');

beforeEach(async () => {
  school = new School();
  vi.spyOn(api, 'takeMarks').mockResolvedValue(encodeMarks([]));
  send = await atSchool(async ({ head }, payload) => {
    return school.take(head.kind, 'from' in head ? head.from.n : 0, payload as Edition);
  });
  vi.spyOn(api, 'lesson').mockImplementation(async () => lessonNow(school.editions[school.n - 1], school.n));
  await useLesson().accept(lessonNow(whole));
});

describe('edits', () => {
  it('are shown at once, sent one after the other, and undone at once', async () => {
    const [lesson, editing] = [useLesson(), useEditing()];
    void editing.play(cutAt(2));
    void editing.play(cutAt(4));
    expect(lesson.lengthSamples).toBe(8 * SECOND);
    expect(school.n).toBe(1);
    editing.undo();
    expect(lesson.lengthSamples).toBe(9 * SECOND);
    await editing.sent();
    expect([school.n, school.editions.length]).toEqual([2, 3]);
    expect(lesson.edition).toEqual(school.editions[1]);
    expect(lesson.isEditing).toBe(false);
    editing.redo();
    expect(lesson.lengthSamples).toBe(8 * SECOND);
    await editing.sent();
    expect(lesson.edition).toEqual(school.editions[2]);
  });

  it('that cannot be kept are not made, and say why', async () => {
    const [lesson, editing] = [useLesson(), useEditing()];
    const chapters = [{ take: TAKE, atSamples: 0, title: 'x'.repeat(121) }];
    await editing.change({ chapters });
    expect(editing.problem).toMatch(/120 letters/);
    expect(lesson.edition).toEqual(whole);
    expect(send).not.toHaveBeenCalled();
    await editing.change({ chapters: [{ ...chapters[0], title: 'Bends' }] });
    expect(editing.problem).toBeNull();
    expect(school.editions.at(-1)!.chapters).toHaveLength(1);
  });

  it('of an earlier visit are undone by what the school knows', async () => {
    school.editions.push({ ...whole, programme: cutAt(3) });
    school.n = 2;
    const [lesson, editing] = [useLesson(), useEditing()];
    await lesson.accept(lessonNow(school.editions[1], 2));
    editing.undo();
    await editing.sent();
    expect(lesson.lengthSamples).toBe(10 * SECOND);
    expect([editing.canUndo, editing.canRedo]).toEqual([false, true]);
  });

  it('made while an answer is written down are made from what was answered', async () => {
    const [lesson, editing, outbox] = [useLesson(), useEditing(), useOutbox()];
    let isWriting = false;
    let written = () => {};
    const put = vi.spyOn(OutboxLog.prototype, 'put');
    const apply = vi.spyOn(OutboxLog.prototype, 'apply').mockImplementationOnce(async () => {
      isWriting = true;
      await new Promise<void>((resolve) => (written = resolve));
    });
    const first = editing.play(cutAt(2));
    await expect.poll(() => isWriting).toBe(true);
    const second = editing.play(cutAt(4));
    await expect.poll(() => put.mock.calls.length).toBe(2);
    written();
    await Promise.all([first, second]);
    expect(outbox.refusal).toBeNull();
    expect(school.editions).toHaveLength(3);
    expect(lesson.lengthSamples).toBe(8 * SECOND);
    for (const spy of [put, apply]) spy.mockRestore();
  });

  it('wait for the network, and keep saying which edit they were made from', async () => {
    const [lesson, editing, outbox] = [useLesson(), useEditing(), useOutbox()];
    school.isReachable = false;
    await editing.play(cutAt(2));
    expect(outbox.status.waitsFor).toEqual({ for: 'network' });
    await expect(editing.arrived()).rejects.toThrow(Unreachable);
    // News of another window's edit arrives meanwhile.
    school.editions.push(whole);
    school.n = 2;
    await lesson.accept(lessonNow(whole, 2));
    expect(lesson.lengthSamples).toBe(9 * SECOND);
    school.isReachable = true;
    await outbox.retry();
    await expect.poll(() => outbox.refusal).toMatch(/another window/);
    expect(outbox.status.setAside.map(({ kind }) => kind)).toEqual(['edit']);
    expect(school.editions).toHaveLength(2);
    // What the school has is shown, until the teacher tries again.
    await expect.poll(() => lesson.lengthSamples).toBe(10 * SECOND);
    expect(lesson.isEditing).toBe(false);
  });

  it.each([
    ['at once', false],
    ['while they waited for the network', true],
  ])('of a lesson that was left %s are kept here, and are no other lesson’s', async (_, isWaited) => {
    const first = new LessonScope();
    useOtherwise(first);
    await useLesson().accept(lessonNow(whole));
    const [editing, outbox] = [useEditing(), useOutbox()];
    school.isReachable = false;
    const kept = editing.play(cutAt(2));
    if (isWaited) await kept;
    first.end();
    useOtherwise(new LessonScope());
    const other = useLesson();
    await other.accept(lessonNow(whole, 1, OTHER));
    await kept;
    expect(other.lengthSamples).toBe(10 * SECOND);
    expect([...outbox.status.owed.keys()]).toEqual([LESSON]);
    school.isReachable = true;
    await outbox.retry();
    await expect.poll(() => school.editions.length).toBe(2);
    expect(send.mock.calls.every(([entry]) => entry.lesson === LESSON)).toBe(true);
    expect(other.lengthSamples).toBe(10 * SECOND);
  });
});
