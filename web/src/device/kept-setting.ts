import { checkedJson } from '@kite-trail/core/formats/bytes';
import { useLocalStorage } from '@vueuse/core';
import { computed, type MaybeRefOrGetter, type Ref, type WritableComputedRef } from 'vue';
import type { z } from 'zod';

/**
 * A setting kept on this device, for the next window. What is set in another window changes nothing in this one: somebody may be
 * recording here.
 */
export const useKeptSetting = <T extends string>(key: MaybeRefOrGetter<string>, initial: T): Ref<T> =>
  useLocalStorage<T>(key, initial, { listenToStorageChanges: false, writeDefaults: false });

/** The same for what is more than a word; what was kept and cannot be read is as it usually is. */
export function useKeptJson<T>(key: MaybeRefOrGetter<string>, schema: z.ZodType<T>, usual: T): WritableComputedRef<T> {
  const kept = useKeptSetting<string>(key, '');
  return computed({
    get: () => readJson(kept.value, schema) ?? usual,
    set: (now) => (kept.value = JSON.stringify(now)),
  });
}

function readJson<T>(text: string, schema: z.ZodType<T>): T | null {
  try {
    return checkedJson(text, schema);
  } catch {
    return null;
  }
}
