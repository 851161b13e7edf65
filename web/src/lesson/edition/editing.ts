import { editionProblem, type EditState } from '@kite-trail/core/contract/edition';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { Edition } from '@kite-trail/core/trail/edition';
import type { Programme } from '@kite-trail/core/trail/programme';
import { computed } from 'vue';
import { isStepOfEditing } from '../../outbox/entry';
import { Unreachable } from '../../server/call';
import { useDraft } from '../draft';
import { useEdition, type EditionFrom } from './edition';
import { useLesson } from '../lesson';
import { useOutbox } from '../../app/outbox';
import { painted } from '../../device/painted';
import { useNotices } from '../notices';
import { ofLesson } from '../lesson-scope';

/** Edits of what viewers get: shown at once, sent one after the other, and undone without end. */
export const useEditing = ofLesson(() => {
  const lesson = useLesson();
  const edition = useEdition();
  const draft = useDraft();
  const outbox = useOutbox();
  const problem = useNotices().place('problem');
  /** Steps that are on screen, but no entries of the outbox yet. */
  let unkept = 0;
  let keeping: Promise<void> = Promise.resolve();

  // While edits are on their way, the server's word of what can be undone is behind.
  const canUndo = computed(() =>
    lesson.isEditing ? edition.past.length > 0 : (lesson.document?.canUndoEdit ?? false),
  );
  const canRedo = computed(() =>
    lesson.isEditing ? edition.future.length > 0 : (lesson.document?.canRedoEdit ?? false),
  );

  /** Puts an edition in force. It is shown at once; the promise is kept when the school has it. */
  async function apply(wanted: Edition): Promise<void> {
    problem.value = editionProblem(wanted, edition.now);
    if (problem.value) return;
    show(wanted, 'edited');
    return send('edit');
  }

  const change = (parts: Partial<Edition>): Promise<void> => apply({ ...edition.now, ...parts });
  const play = (programme: Programme): Promise<void> => change({ programme });

  function undo(): void {
    if (!canUndo.value) return;
    // What is older than this window's edits is shown once the school has said what it was.
    const before = edition.past.at(-1);
    if (before) show(before, 'undone');
    void send('undo');
  }

  function redo(): void {
    if (!canRedo.value) return;
    const after = edition.future.at(-1);
    if (after) show(after, 'redone');
    void send('redo');
  }

  function show(next: Edition, from: EditionFrom): void {
    edition.put(next, from);
    lesson.layDesk();
  }

  function send(kind: 'edit' | 'undo' | 'redo'): Promise<void> {
    const { id, edit } = lesson.document!;
    const payload = edition.now;
    lesson.isEditing = true;
    unkept++;
    // It is on screen first; and what was changed before it is owed before it.
    keeping = Promise.all([keeping, painted(), draft.close()]).then(async () => {
      const { document } = lesson;
      const from = document?.id === id ? document.edit : edit;
      await (await outbox.open()).add(id, { kind, from, payload });
      unkept--;
    });
    return sent();
  }

  /** Settles when all edits so far are entries of the outbox. */
  const kept = async (): Promise<void> => void (await keeping);

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
    if (answer.to === 'step' && entry.lesson === lesson.document?.id) accepted(lesson.document, answer.state);
  });

  function accepted(document: LessonDocument, state: EditState): void {
    if (unkept > 0 || outbox.isOwed(document.id, isStepOfEditing)) {
      lesson.document = { ...document, ...state };
      return;
    }
    lesson.isEditing = false;
    const before = edition.now;
    lesson.acceptEdit(state);
    // What was undone by the school alone is shown only now.
    if (before !== edition.now) lesson.layDesk();
  }

  // What the school has is shown then.
  outbox.onRefusal((entry) => {
    if (isStepOfEditing(entry) && entry.lesson === lesson.document?.id) lesson.isEditing = false;
  });

  return { problem, canUndo, canRedo, apply, change, play, undo, redo, kept, sent, arrived };
});
