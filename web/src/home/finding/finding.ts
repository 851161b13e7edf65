import type { Found } from '@kite-trail/core/contract/search';
import { watchDebounced } from '@vueuse/core';
import { ref, type Ref } from 'vue';
import { api } from '../../server/api';

/** Whoever types is waited for so long. */
export const TYPED_MS = 200;

/** Looks for what is typed, as it is typed; lessons that the school has still to read are asked for again. */
export function useFinding(asked: Ref<string>) {
  const found = ref<Found | null>(null);
  const problem = ref('');
  let turn = 0;

  async function find(): Promise<void> {
    const now = ++turn;
    problem.value = '';
    if (asked.value.trim() === '') return void (found.value = null);
    try {
      for (let unread = Infinity; unread > 0;) {
        const answer = await api.search(asked.value);
        // Something else is looked for by now.
        if (now !== turn) return;
        found.value = answer;
        // Where none could be read, to ask at once would bring no more.
        if (answer.unread >= unread) return;
        unread = answer.unread;
      }
    } catch (error) {
      if (now === turn) problem.value = (error as Error).message;
    }
  }

  watchDebounced(asked, find, { debounce: TYPED_MS, immediate: true });
  return { found, problem };
}
