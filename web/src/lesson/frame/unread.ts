import { unreadAmong } from '@kite-trail/core/lesson/mark';
import { computed } from 'vue';
import { useLesson } from '../lesson';

/** What is said where something that is stored could not be read here, or `null`: it may be a newer program's, or damaged. */
export function useUnread() {
  const lesson = useLesson();
  const count = computed(() => {
    const onPages = (lesson.base?.pages ?? []).map(({ unread }) => unread?.length ?? 0);
    const inTakes = [...lesson.takes.values()].map(({ marks }) => unreadAmong(marks));
    return [...onPages, ...inTakes, unreadAmong(lesson.between)].reduce((sum, one) => sum + one, 0);
  });
  return computed(() => {
    if (count.value === 0) return null;
    const what = count.value === 1 ? 'One thing in this lesson' : `${count.value} things in this lesson`;
    return `${what} cannot be read by this version, and ${count.value === 1 ? 'is' : 'are'} not shown. All of it is kept as it is.`;
  });
}
