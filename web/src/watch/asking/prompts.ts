import type { Watch } from '@kite-trail/core/contract/watch';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { ref, shallowRef, watch, type Ref } from 'vue';
import type { ProgrammePlayer } from '../../playback/programme-player';
import type { usePlayer } from '../../playback/use-player';
import { keptByLink } from '../opening/kept-by-link';

export type AskedPrompt = Watch['prompts'][number];

/** What somebody answered, by the prompts' ids. */
const answersHere = keptByLink<{ seenMs: number; answers: Record<string, string> }>('kite-trail-answers', 100);

/** Whoever goes further at once has jumped, or listens without looking: nothing halts. */
const JUMP_SAMPLES = secondsToSamples(3);

/**
 * Halts with each question when it is its turn, until whoever watches goes on. One that was answered on this device halts no more.
 * Answers are kept on the device alone.
 */
export function usePrompts(
  token: string,
  player: ReturnType<typeof usePlayer<ProgrammePlayer>>,
  prompts: Ref<readonly AskedPrompt[]>,
) {
  const asked = shallowRef<AskedPrompt | null>(null);
  const answers = ref<Readonly<Record<string, string>>>(answersHere.all()[token]?.answers ?? {});
  /** Those that halted while this page has been open. */
  const passed = new Set<string>();
  const lengthSamples = () => player.player.value?.lengthSamples ?? Infinity;
  const isDue = ({ id }: AskedPrompt) => !passed.has(id) && !answers.value[id];

  function halt(prompt: AskedPrompt): void {
    asked.value = prompt;
    player.pause();
    player.seek(prompt.atSamples);
  }

  watch(player.samples, (now, before) => {
    // At the end it has stopped by itself.
    const isOver = now >= lengthSamples();
    if ((!player.playing.value && !isOver) || now - before > JUMP_SAMPLES) return;
    const due = prompts.value.find((one) => one.atSamples > before && one.atSamples <= now && isDue(one));
    if (due) halt(due);
  });
  // Whoever plays on has gone on. At one moment there may be another question, or one at the very beginning.
  watch(player.playing, (is) => {
    if (!is) return;
    if (asked.value) passed.add(asked.value.id);
    asked.value = null;
    const due = prompts.value.find((one) => one.atSamples === player.samples.value && isDue(one));
    if (due) halt(due);
  });
  // Whoever goes elsewhere leaves the question.
  watch(player.samples, (now) => {
    if (asked.value && now !== asked.value.atSamples) asked.value = null;
  });

  function answer(id: string, text: string): void {
    answers.value = { ...answers.value, [id]: text.trim() };
    answersHere.keep(token, { seenMs: Date.now(), answers: answers.value });
  }

  function goOn(): void {
    const prompt = asked.value;
    if (!prompt) return;
    passed.add(prompt.id);
    // At the end there is nothing to go on with.
    const isLast = prompt.atSamples >= lengthSamples();
    asked.value = null;
    if (!isLast) player.play();
  }

  /** Asks one again that was asked before. */
  function askAgain(prompt: AskedPrompt): void {
    halt(prompt);
  }

  return { asked, answers, answer, goOn, askAgain };
}

export type Prompts = ReturnType<typeof usePrompts>;
