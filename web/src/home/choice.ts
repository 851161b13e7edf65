import type { LessonId } from '@kite-trail/core/lesson/ids';
import { computed, ref } from 'vue';

/** Which of the lessons that are seen are chosen; with Shift, all from the one touched last. @param seen in their order */
export function useChoice(seen: () => readonly LessonId[]) {
  const chosen = ref<ReadonlySet<LessonId>>(new Set());
  let last: LessonId | null = null;
  // What is not seen any more cannot be chosen.
  const ids = computed(() => seen().filter((id) => chosen.value.has(id)));

  function set(id: LessonId, is: boolean, withShift: boolean): void {
    const all = seen();
    const at = all.indexOf(id);
    const from = withShift && last !== null && all.includes(last) ? all.indexOf(last) : at;
    const next = new Set(ids.value);
    for (const one of all.slice(Math.min(from, at), Math.max(from, at) + 1)) {
      if (is) next.add(one);
      else next.delete(one);
    }
    chosen.value = next;
    last = id;
  }

  return {
    ids,
    has: (id: LessonId): boolean => chosen.value.has(id),
    set,
    all: () => (chosen.value = new Set(seen())),
    none: () => (chosen.value = new Set()),
  };
}
