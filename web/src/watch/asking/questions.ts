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
  const own = ref<readonly OwnQuestion[]>(askedHere.all()[token]?.asked ?? []);
  const answered = computed(() => about.value?.questions ?? []);
  const waiting = computed(() => own.value.filter(({ id }) => answered.value.every((one) => one.id !== id)));

  /** Sends a question to the teacher. @throws Error with a message for the student */
  async function send(atSamples: number, question: string): Promise<void> {
    const asked: OwnQuestion = { id: nanoid(), atSamples: Math.round(atSamples), question: question.trim() };
    const path = `/api/watch/${token}/publications/${about.value!.publication}/questions${passFor(token)}`;
    await ask(path, { method: 'POST', body: asked });
    own.value = [...own.value, asked];
    askedHere.keep(token, { seenMs: Date.now(), asked: [...own.value] });
  }

  return { mayAsk: computed(() => about.value?.mayAsk ?? false), answered, waiting, send };
}

export type Questions = ReturnType<typeof useQuestions>;
