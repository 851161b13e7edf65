import type { Watch } from '@kite-trail/core/contract/watch';
import { nanoid } from 'nanoid';
import { computed, ref, type Ref } from 'vue';
import { ask } from '../opening/ask';
import { keptByLink } from '../opening/kept-by-link';
import { passFor } from '../opening/passcode';

/** A question that was asked on this device. */
export interface OwnQuestion {
  id: string;
  atSamples: number;
  question: string;
}

const askedHere = keptByLink<{ seenMs: number; asked: OwnQuestion[] }>('kite-trail-asked', 100);

/** What can be asked about a moment, and what was: one's own questions wait on this device until they are answered. */
export function useQuestions(token: string, about: Ref<Watch | null>) {
  /** What is being written: it outlives the panel it is written in. */
  const draft = ref('');
  const own = ref<readonly OwnQuestion[]>(askedHere.all()[token]?.asked ?? []);
  const answered = computed(() => about.value?.questions ?? []);
  const waiting = computed(() => own.value.filter(({ id }) => answered.value.every((one) => one.id !== id)));

  /** Sends what is written to the teacher. @throws Error with a message for the student; then it is there still */
  async function send(atSamples: number): Promise<void> {
    const asked: OwnQuestion = { id: nanoid(), atSamples: Math.round(atSamples), question: draft.value.trim() };
    const path = `/api/watch/${token}/publications/${about.value!.publication}/questions${passFor(token)}`;
    await ask(path, { method: 'POST', body: asked });
    draft.value = '';
    own.value = [...own.value, asked];
    askedHere.keep(token, { seenMs: Date.now(), asked: [...own.value] });
  }

  return { mayAsk: computed(() => about.value?.mayAsk ?? false), draft, answered, waiting, send };
}

export type Questions = ReturnType<typeof useQuestions>;
