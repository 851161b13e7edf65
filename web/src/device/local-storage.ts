import { ref, watch, type Ref } from 'vue';

/** A setting kept on this device. */
export function useLocalStorage<T extends string>(key: string, initial: T): Ref<T> {
  const value = ref((localStorage.getItem(key) as T | null) ?? initial) as Ref<T>;
  watch(value, (now) => localStorage.setItem(key, now));
  return value;
}
