import type { Question } from '@kite-trail/core/contract/question';
import { useLocalStorage } from '@vueuse/core';

/** Answers that were begun on this device and have not reached the school: they outlive their dialog, and the window. */
export function useBegunAnswers() {
  const begun = useLocalStorage<Record<string, string>>('kite-trail-begun-answers', {});

  const textOf = ({ id, answer }: Question): string => begun.value[id] ?? answer ?? '';
  const isBegun = (question: Question): boolean => textOf(question).trim() !== (question.answer ?? '');

  function write({ id }: Question, text: string): void {
    begun.value = { ...begun.value, [id]: text };
  }

  /** It has reached the school, or its question is gone. */
  function forget({ id }: Question): void {
    begun.value = Object.fromEntries(Object.entries(begun.value).filter(([key]) => key !== id));
  }

  return { textOf, isBegun, write, forget };
}
