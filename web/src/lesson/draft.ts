import type { History } from '@kite-trail/core/formats/history-coding';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { onScopeDispose, ref } from 'vue';
import { useOutbox } from '../app/outbox';
import type { ChangesDraft } from '../outbox/changes-draft';
import type { OwedFile } from '../outbox/entry';
import { ofLesson } from './lesson-scope';

/** The newest changes of the pages, on their way into the outbox. */
export const useDraft = ofLesson(() => {
  const outbox = useOutbox();
  /** There are changes that are no entry of the outbox yet. */
  const isGathering = ref(false);
  let draft: ChangesDraft | null = null;
  let isOver = false;

  async function open(id: LessonId): Promise<void> {
    const begun = await outbox.draftOf(id);
    // The lesson may be left again before it is open.
    if (isOver) return outbox.endDraft(begun);
    draft = begun;
    draft.onGathering = (is) => (isGathering.value = is);
  }

  /** @param revision of the pages it is made from */
  const add = (revision: number, mark: Mark, history: History): void => draft?.add(revision, mark, history);
  /** Settles when a file is kept here; changes that need it come after it. */
  async function addFile(file: OwedFile): Promise<void> {
    if (!draft) throw new Error('No lesson is open.');
    await draft.addFile(file);
  }
  const keepHistory = (history: History): void => draft?.keepHistory(history);
  /** Settles when all changes so far are entries of the outbox. */
  const close = async (): Promise<void> => draft?.close();

  onScopeDispose(() => {
    isOver = true;
    if (draft) void outbox.endDraft(draft);
  });

  return { isGathering, open, add, addFile, keepHistory, close };
});
