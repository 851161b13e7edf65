import { computed, ref } from 'vue';
import { useOutbox } from '../app/outbox';
import { useAttempt } from '../controls/attempt';
import { useDraft } from '../lesson/draft';
import { useEditing } from '../lesson/edition/editing';
import { useLesson } from '../lesson/lesson';
import { ofLesson } from '../lesson/lesson-scope';
import type { Entry } from '../outbox/entry';
import { ownWork } from '../server/own-work';
import { useOwnTasks } from './own-tasks';

const isHandIn = ({ head }: Entry): boolean => head.kind === 'hand-in';

/** What a student works on, and how it stands with handing it in. */
export const useWork = ofLesson(() => {
  const lesson = useLesson();
  const draft = useDraft();
  const editing = useEditing();
  const outbox = useOutbox();
  const tasks = useOwnTasks();
  const { problem, attempt } = useAttempt();
  const isHandingIn = ref(false);

  const own = computed(() => (lesson.document ? tasks.workIn(lesson.document.id) : null));
  /** It is handed in as far as this device goes, and waits for the school. */
  const isOnItsWay = computed(
    () => outbox.status.owed.size > 0 && lesson.document !== null && outbox.isOwed(lesson.document.id, isHandIn),
  );
  /** Something was changed since it was handed in: the school has it, or it is still to come. */
  const isChanged = computed(
    () =>
      own.value?.reply?.isChanged === true ||
      (own.value?.reply?.handedAt != null && lesson.document !== null && outbox.owes(lesson.document.id)),
  );

  /** Hands in all that has been made, now or as soon as there is a network. */
  async function handIn(): Promise<void> {
    if (isHandingIn.value) return;
    isHandingIn.value = true;
    await attempt(async () => {
      const { id } = lesson.document!;
      await Promise.all([draft.close(), editing.kept()]);
      const opened = await outbox.open();
      await opened.add(id, { kind: 'hand-in', payload: { saidAt: new Date().toISOString() } });
      await opened.settled(id, isHandIn);
    });
    isHandingIn.value = false;
  }

  const choose = (choice: number) =>
    attempt(async () => {
      await ownWork.choose(lesson.document!.id, choice);
      await tasks.load();
    });

  const takeBack = () =>
    attempt(async () => {
      await ownWork.takeBack(lesson.document!.id);
      await tasks.load();
    });

  return { own, isOnItsWay, isChanged, isHandingIn, problem, handIn, choose, takeBack };
});
