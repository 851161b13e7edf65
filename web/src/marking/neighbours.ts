import { useRoute, useRouter } from 'vue-router';
import type { useMarking } from './marking';

/** The way from one reply to another, in the step that is open, and back to all of them. */
export function useNeighbours() {
  const route = useRoute();
  const router = useRouter();

  function go(to: ReturnType<typeof useMarking>['next']): void {
    if (!to) return;
    const lessonId = to.reply!.handIn!.lesson;
    void router.push({ name: 'marking', params: { taskId: route.params.taskId, lessonId } });
  }
  const back = (): void => void router.push({ name: 'task', params: { taskId: route.params.taskId } });

  return { go, back };
}
