import type { PromptId } from '@kite-trail/core/lesson/ids';
import type { Prompt } from '@kite-trail/core/trail/prompts';
import { nanoid } from 'nanoid';
import { computed } from 'vue';
import { useEditing } from '../../lesson/edition/editing';
import { useLesson } from '../../lesson/lesson';
import { ofLesson } from '../../lesson/lesson-scope';
import { useTrimming } from '../trimming';

/** What is asked before the teacher has written a question of their own. */
const FIRST_QUESTION = 'What comes next?';

/** The moments at which playback halts with a question: made, worded, moved and taken away. */
export const usePrompts = ofLesson(() => {
  const lesson = useLesson();
  const editing = useEditing();
  const trimming = useTrimming();

  const listed = computed(() => trimming.prompts);
  const put = (prompts: readonly Prompt[]) => void editing.change({ prompts });

  /** @returns the new one's id, or `null` where nothing plays */
  function add(samples: number): PromptId | null {
    const moment = trimming.momentAt(samples);
    if (!moment) return null;
    const id = nanoid(12) as PromptId;
    put([...lesson.edition.prompts, { id, ...moment, question: FIRST_QUESTION, answer: '' }]);
    return id;
  }

  /** Words one anew. A question that is left empty stays as it was. */
  function word(id: PromptId, words: Partial<Pick<Prompt, 'question' | 'answer'>>): void {
    const said = Object.fromEntries(Object.entries(words).map(([key, text]) => [key, text.trim()]));
    if (said.question === '') return;
    put(lesson.edition.prompts.map((one) => (one.id === id ? { ...one, ...said } : one)));
  }

  function move(id: PromptId, samples: number): void {
    const moment = trimming.momentAt(samples);
    if (moment) put(lesson.edition.prompts.map((one) => (one.id === id ? { ...one, ...moment } : one)));
  }

  const drop = (id: PromptId) => put(lesson.edition.prompts.filter((one) => one.id !== id));

  return { listed, add, word, move, drop };
});
