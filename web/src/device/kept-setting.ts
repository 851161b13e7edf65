import { useLocalStorage } from '@vueuse/core';
import type { MaybeRefOrGetter, Ref } from 'vue';

/**
 * A setting kept on this device, for the next window. What is set in another window changes nothing in this one: somebody may be
 * recording here.
 */
export const useKeptSetting = <T extends string>(key: MaybeRefOrGetter<string>, initial: T): Ref<T> =>
  useLocalStorage<T>(key, initial, { listenToStorageChanges: false, writeDefaults: false });
