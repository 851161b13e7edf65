import { onScopeDispose, ref, type Ref } from 'vue';

/** Whether the window is narrow, such as a phone's held upright; follows it as it is turned. */
export function useIsNarrow(): Ref<boolean> {
  const query = window.matchMedia('(max-width: 900px)');
  const isNarrow = ref(query.matches);
  const follow = () => (isNarrow.value = query.matches);
  query.addEventListener('change', follow);
  onScopeDispose(() => query.removeEventListener('change', follow));
  return isNarrow;
}
