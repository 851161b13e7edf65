import { editionProblem, type EditState } from '@kite-trail/core/contract/edition';
import type { Edition } from '@kite-trail/core/trail/edition';
import type { Programme } from '@kite-trail/core/trail/programme';
import equal from 'fast-deep-equal';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { isStepOfEditing } from '../outbox/entry';
import { Unreachable } from '../server/call';
import { useLesson } from './lesson';
import { useOutbox } from '../app/outbox';
import { painted } from '../device/painted';

/** Edits of what viewers get: shown at once, sent one after the other, and undone without end. */
export const useEditing = defineStore('editing', () => {
  const lesson = useLesson();
  const outbox = useOutbox();
  const problem = ref<string | null>(null);
  /** What this window can undo and redo by itself; what is older, the server knows. */
  const past = shallowRef<readonly Edition[]>([]);
  const future = shallowRef<readonly Edition[]>([]);
  let shown: Edition | null = null;
  /** Steps that are on screen, but no entries of the outbox yet. */
  let unkept = 0;
  let keeping: Promise<void> = Promise.resolve();

  // While edits are on their way, the server's word of what can be undone is behind.
  const canUndo = computed(() => (lesson.isEditing ? past.value.length > 0 : (lesson.document?.canUndoEdit ?? false)));
  const canRedo = computed(() =>
    lesson.isEditing ? future.value.length > 0 : (lesson.document?.canRedoEdit ?? false),
  );

  // What comes from elsewhere, such as a new take, is a new beginning.
  watch(
    () => lesson.edition,
    (edition) => {
      if (edition === shown) return;
      past.value = future.value = [];
    },
    { flush: 'sync' },
  );

  /** Puts an edition in force. It is shown at once; the promise is kept when the school has it. */
  async function apply(edition: Edition): Promise<void> {
    problem.value = editionProblem(edition, lesson.edition);
    if (problem.value) return;
    past.value = [...past.value, lesson.edition];
    future.value = [];
    show(edition);
    return send('edit');
  }

  const change = (parts: Partial<Edition>): Promise<void> => apply({ ...lesson.edition, ...parts });
  const play = (programme: Programme): Promise<void> => change({ programme });

  function undo(): void {
    if (!canUndo.value) return;
    const before = past.value.at(-1);
    if (before) {
      past.value = past.value.slice(0, -1);
      future.value = [...future.value, lesson.edition];
      show(before);
    }
    void send('undo');
  }

  function redo(): void {
    if (!canRedo.value) return;
    const after = future.value.at(-1);
    if (after) {
      future.value = future.value.slice(0, -1);
      past.value = [...past.value, lesson.edition];
      show(after);
    }
    void send('redo');
  }

  function show(edition: Edition): void {
    shown = edition;
    lesson.edition = edition;
    lesson.layDesk();
  }

  function send(kind: 'edit' | 'undo' | 'redo'): Promise<void> {
    const { id, edit } = lesson.document!;
    const { edition } = lesson;
    lesson.isEditing = true;
    unkept++;
    // It is on screen first; and what was changed before it is owed before it.
    keeping = Promise.all([keeping, painted(), lesson.closeDraft()]).then(async () => {
      const { document } = lesson;
      const from = document?.id === id ? document.edit : edit;
      await (await outbox.open()).add(id, { kind, from, payload: edition });
      unkept--;
    });
    return sent();
  }

  /** Settles when the school has all edits, or they wait. */
  async function sent(): Promise<void> {
    const id = lesson.document?.id;
    await keeping;
    if (id) await (await outbox.open()).settled(id, isStepOfEditing);
  }

  /** Settles when the school has all edits. @throws Unreachable while they wait */
  async function arrived(): Promise<void> {
    await sent();
    if (lesson.isEditing) throw new Unreachable();
  }

  outbox.onAnswer((entry, answer) => {
    if (answer.to === 'step' && entry.lesson === lesson.document?.id) void accepted(answer.state);
  });

  async function accepted(state: EditState): Promise<void> {
    const opened = await outbox.open();
    const { document } = lesson;
    if (!document) return;
    if (unkept > 0 || opened.isOwed(document.id, isStepOfEditing)) {
      lesson.document = { ...document, ...state };
      return;
    }
    lesson.isEditing = false;
    const before = lesson.edition;
    lesson.acceptEdit(state);
    // What was undone by the school alone is shown only now.
    if (!equal(before, lesson.edition)) lesson.layDesk();
    shown = lesson.edition;
  }

  // What the school has is shown then.
  outbox.onRefusal((entry) => {
    if (isStepOfEditing(entry) && entry.lesson === lesson.document?.id) lesson.isEditing = false;
  });

  /** Gives up what belongs to another lesson. */
  function reset(): void {
    past.value = future.value = [];
  }

  return { problem, canUndo, canRedo, apply, change, play, undo, redo, sent, arrived, reset };
});
