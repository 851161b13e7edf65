import type { EditedFrom, EditState } from '@kite-trail/core/contract/edition';
import type { Edition } from '@kite-trail/core/trail/edition';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Programme } from '@kite-trail/core/trail/programme';
import equal from 'fast-deep-equal';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { leftEdits } from '../capture/left-edits';
import { api, Refused, Unreachable } from '../server/api';
import { useLesson } from './lesson';
import { painted } from './painted';

const TRY_AGAIN_MS = 3000;

/** What the server is yet to be told, and the edition that it leads to. */
interface Step {
  kind: 'edit' | 'undo' | 'redo';
  lesson: LessonId;
  from: EditedFrom;
  edition: Edition;
}

/** Edits of what viewers get: shown at once, sent one after the other, and undone without end. */
export const useEditing = defineStore('editing', () => {
  const lesson = useLesson();
  const problem = ref<string | null>(null);
  const waiting = ref<'network' | 'sign-in' | null>(null);
  const queue = shallowRef<readonly Step[]>([]);
  /** What this window can undo and redo by itself; what is older, the server knows. */
  let past: Edition[] = [];
  let future: Edition[] = [];
  let shown: Edition | null = null;
  let sending: Promise<void> = Promise.resolve();

  const canUndo = computed(() => (queue.value.length > 0 ? past.length > 0 : (lesson.document?.canUndoEdit ?? false)));
  const canRedo = computed(() =>
    queue.value.length > 0 ? future.length > 0 : (lesson.document?.canRedoEdit ?? false),
  );

  // What comes from elsewhere, such as a new take, is a new beginning.
  watch(
    () => lesson.edition,
    (edition) => {
      if (edition === shown) return;
      past = [];
      future = [];
    },
    { flush: 'sync' },
  );

  /** Puts an edition in force. It is shown at once; the promise is kept when the server has it. */
  function apply(edition: Edition): Promise<void> {
    past.push(lesson.edition);
    future = [];
    show(edition);
    return send('edit');
  }

  const change = (parts: Partial<Edition>): Promise<void> => apply({ ...lesson.edition, ...parts });
  const play = (programme: Programme): Promise<void> => change({ programme });

  function undo(): void {
    if (!canUndo.value) return;
    const before = past.pop();
    if (before) {
      future.push(lesson.edition);
      show(before);
    }
    void send('undo');
  }

  function redo(): void {
    if (!canRedo.value) return;
    const after = future.pop();
    if (after) {
      past.push(lesson.edition);
      show(after);
    }
    void send('redo');
  }

  function show(edition: Edition): void {
    shown = edition;
    lesson.edition = edition;
    lesson.layDesk();
  }

  function send(kind: Step['kind']): Promise<void> {
    const { id, edit: from } = lesson.document!;
    queue.value = [...queue.value, { kind, lesson: id, from, edition: lesson.edition }];
    lesson.isEditing = true;
    problem.value = null;
    const shown = painted().then(keepLeft);
    sending = Promise.all([sending, shown]).then(sendNext);
    return sending;
  }

  /** Settles when the server has all edits, or has refused one. */
  const sent = (): Promise<void> => sending;

  async function sendNext(): Promise<void> {
    const { document } = lesson;
    // What belongs to a lesson that was left is on this device, and is sent at its next visit.
    queue.value = queue.value.filter((one) => one.lesson === document?.id);
    const [step] = queue.value;
    if (!document || !step) return;
    try {
      await lesson.save();
      const state = await sendStep(document.id, step);
      queue.value = queue.value.filter((one) => one !== step);
      waiting.value = null;
      accepted(document.id, state);
    } catch (error) {
      if (error instanceof Refused && error.status !== 401 && error.status < 500) return refused(document.id, error);
      waiting.value = error instanceof Unreachable || (error as Refused).status !== 401 ? 'network' : 'sign-in';
      await new Promise((resolve) => setTimeout(resolve, TRY_AGAIN_MS));
      return sendNext();
    }
  }

  function sendStep(id: LessonId, { kind, edition }: Step): Promise<EditState> {
    if (kind === 'undo') return api.undoEdit(id);
    if (kind === 'redo') return api.redoEdit(id);
    return api.edit(id, lesson.document!.edit, edition);
  }

  function accepted(id: LessonId, state: EditState): void {
    if (lesson.document?.id !== id) return;
    if (queue.value.length > 0) {
      lesson.document = { ...lesson.document, ...state };
      keepLeft();
      return;
    }
    lesson.isEditing = false;
    leftEdits.forget(id);
    const before = lesson.edition;
    lesson.acceptEdit(state);
    // What was undone by the server alone is shown only now.
    if (!equal(before, lesson.edition)) lesson.layDesk();
    shown = lesson.edition;
  }

  /** Another window was first, or the edit cannot be: what the server has is shown, and the teacher is told. */
  async function refused(id: LessonId, { message }: Refused): Promise<void> {
    queue.value = [];
    lesson.isEditing = false;
    leftEdits.forget(id);
    problem.value = message;
    await lesson.refresh();
  }

  /** Keeps the newest edit on this device until the server has it. */
  function keepLeft(): void {
    const newest = queue.value.at(-1);
    if (!newest) return;
    const { document } = lesson;
    const from = document?.id === newest.lesson ? document.edit : newest.from;
    leftEdits.keep(newest.lesson, { from, edition: newest.edition });
  }

  /** Sends what was edited on this device but did not reach the server, such as when a tab was closed offline. */
  async function handOverLeft(id: LessonId): Promise<void> {
    const left = leftEdits.find(id);
    leftEdits.forget(id);
    if (!left || !lesson.document) return;
    const { edit } = lesson.document;
    if (left.from.n === edit.n && left.from.madeAt === edit.madeAt) return apply(left.edition);
    if (equal(left.edition, lesson.edition)) return;
    problem.value = 'An edit from an earlier visit could not be added, for the lesson was edited elsewhere meanwhile.';
  }

  /** Gives up what belongs to another lesson. */
  function reset(): void {
    queue.value = [];
    problem.value = null;
    past = [];
    future = [];
  }

  return { problem, waiting, canUndo, canRedo, apply, change, play, undo, redo, sent, handOverLeft, reset };
});
