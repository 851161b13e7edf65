import type { Watch } from '@kite-trail/core/contract/watch';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { beforeEach, expect, it, vi } from 'vitest';
import { effectScope, nextTick, ref } from 'vue';
import { usePrompts, type AskedPrompt } from './prompts';

const prompt = (id: string, seconds: number): AskedPrompt =>
  ({ id, atSamples: secondsToSamples(seconds), question: `${id}?`, answer: '' }) as AskedPrompt;
const ALL: Watch['prompts'] = [prompt('start', 0), prompt('middle', 4), prompt('also', 4), prompt('end', 10)];

const kept = new Map<string, string>();
beforeEach(() => {
  kept.clear();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, text: string) => void kept.set(key, text),
  });
});

/** A player of ten seconds, as a screen sees it. */
function watching() {
  const samples = ref(0);
  const playing = ref(false);
  const player = {
    ...{ samples, playing, player: ref({ lengthSamples: secondsToSamples(10) }) },
    play: () => (playing.value = true),
    pause: () => (playing.value = false),
    seek: (to: number) => (samples.value = to),
  };
  const prompts = effectScope().run(() => usePrompts('token', player as never, ref(ALL)))!;
  /** Plays until something halts, or up to a second. */
  async function playTo(seconds: number) {
    while (playing.value && samples.value < secondsToSamples(seconds)) {
      samples.value = Math.min(samples.value + secondsToSamples(0.1), secondsToSamples(10));
      // At the end it stops by itself.
      if (samples.value === secondsToSamples(10)) playing.value = false;
      await nextTick();
    }
  }
  return { player, prompts, playTo };
}

it('halts at each question in its turn, until one goes on', async () => {
  const { player, prompts, playTo } = watching();
  player.play();
  await nextTick();
  const asked = [];
  for (let i = 0; i < 8 && prompts.asked.value; i++) {
    asked.push([prompts.asked.value.id, player.samples.value / 48_000]);
    expect(player.playing.value).toBe(false);
    prompts.goOn();
    await nextTick();
    await playTo(10);
  }
  expect(asked).toEqual([
    ['start', 0],
    ['middle', 4],
    ['also', 4],
    ['end', 10],
  ]);
  // Once more from the beginning, nothing halts again in this visit.
  player.seek(0);
  player.play();
  await nextTick();
  await playTo(10);
  expect([prompts.asked.value, player.samples.value]).toEqual([null, secondsToSamples(10)]);
});

it('takes playing on for going on, and leaves the question to whoever goes elsewhere', async () => {
  const { player, prompts, playTo } = watching();
  player.seek(secondsToSamples(3));
  player.play();
  await nextTick();
  await playTo(9);
  expect(prompts.asked.value?.id).toBe('middle');
  player.seek(secondsToSamples(6));
  await nextTick();
  expect(prompts.asked.value).toBe(null);
  player.play();
  await nextTick();
  player.seek(secondsToSamples(9.9));
  await nextTick();
  expect(prompts.asked.value).toBe(null);
  await playTo(10);
  expect(prompts.asked.value?.id).toBe('end');
});

it('keeps answers on the device: what is answered halts no more, and can be asked again', async () => {
  const first = watching();
  first.prompts.answer('middle', ' A bowline. ');
  expect(JSON.parse(kept.get('kite-trail-answers')!).token.answers).toEqual({ middle: 'A bowline.' });
  const { player, prompts, playTo } = watching();
  expect(prompts.answers.value).toEqual({ middle: 'A bowline.' });
  player.seek(secondsToSamples(3));
  player.play();
  await nextTick();
  await playTo(9);
  expect(prompts.asked.value?.id).toBe('also');
  prompts.askAgain(ALL[1]);
  await nextTick();
  expect(prompts.asked.value?.id).toBe('middle');
});
