import type { VersionId } from '@kite-trail/core/lesson/ids';
import { startedOver } from '@kite-trail/core/trail/edition';
import { computed, ref } from 'vue';
import { api } from '../../server/api';
import { useEditing } from '../../lesson/edition/editing';
import { useLesson } from '../../lesson/lesson';
import { ofLesson } from '../../lesson/lesson-scope';

/** Named versions of what viewers get. The takes are the same in all of them. */
export const useVersions = ofLesson(() => {
  const lesson = useLesson();
  const editing = useEditing();
  const problem = ref<string | null>(null);
  const listed = computed(() => lesson.document?.versions ?? []);

  async function attempt(work: () => Promise<void>): Promise<void> {
    problem.value = null;
    try {
      await editing.arrived();
      await work();
    } catch (error) {
      problem.value = (error as Error).message;
    }
  }

  const keep = (name: string) => attempt(async () => lesson.accept(await api.keepVersion(lesson.document!.id, name)));
  const drop = (id: VersionId) => attempt(async () => lesson.accept(await api.dropVersion(lesson.document!.id, id)));
  const use = (id: VersionId) =>
    attempt(async () => {
      await lesson.accept(await api.useVersion(lesson.document!.id, id));
      lesson.layDesk();
    });

  /** Lets everything play as it was recorded. */
  function startOver(): void {
    const binned = new Set((lesson.document?.takes ?? []).filter((take) => take.isBinned).map(({ id }) => id));
    void editing.apply(startedOver(lesson.edition, lesson.plannedTakes, binned));
  }

  return { problem, listed, keep, use, drop, startOver };
});
