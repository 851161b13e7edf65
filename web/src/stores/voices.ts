import type { TakeId } from '@kite-trail/core/lesson/ids';
import { masteringOf, type Mastering } from '@kite-trail/core/sound/mastering';
import { PeakLevels } from '@kite-trail/core/sound/peaks';
import { takesIn, voiceOf, type Programme } from '@kite-trail/core/trail/programme';
import { defineStore } from 'pinia';
import { computed, shallowRef, watch } from 'vue';
import type { ProfileReport, TakeProfile } from '../workers/profile.worker';
import ProfileWorker from '../workers/profile.worker?worker';
import { useLesson } from './lesson';

/** What is known of the takes' voices: found out once each, beside the interface. */
export const useVoices = defineStore('voices', () => {
  const lesson = useLesson();
  const profiles = shallowRef<ReadonlyMap<TakeId, TakeProfile>>(new Map());
  const peaks = shallowRef<ReadonlyMap<TakeId, PeakLevels>>(new Map());
  const asked = new Map<TakeId, Promise<void>>();

  watch(
    () => lesson.programme,
    (programme) => void ask(programme),
    { immediate: true },
  );

  /** Settles when all voices of a programme are known. */
  async function ask(programme: Programme): Promise<void> {
    const heard = programme.flatMap((segment) => voiceOf(segment)?.take ?? []);
    await Promise.all([...new Set([...heard, ...takesIn(programme)])].map(learn));
  }

  function learn(take: TakeId): Promise<void> {
    const url = lesson.soundUrl(take);
    if (!url) return Promise.resolve();
    const known = asked.get(take);
    if (known) return known;
    const learnt = profileOf(new URL(url, location.href).href).then((found) => {
      // A sound that cannot be read is drawn as silence; playing it says what is wrong.
      peaks.value = new Map(peaks.value).set(take, new PeakLevels(found?.peaks ?? new Uint8Array()));
      if (found) profiles.value = new Map(profiles.value).set(take, found);
    });
    asked.set(take, learnt);
    return learnt;
  }

  const profileOfTake = (take: TakeId) => profiles.value.get(take);
  const speechOf = (take: TakeId) => profiles.value.get(take)?.speech ?? [];

  /** How a programme is mastered as far as its voices are known by now. */
  const masteringNow = (programme: Programme): Mastering => masteringOf(programme, lesson.edition.sound, profileOfTake);

  /** How a programme is mastered, when all its voices are known. */
  async function mastering(programme: Programme): Promise<Mastering> {
    await ask(programme);
    return masteringNow(programme);
  }

  /** Some are not known yet. */
  const isListening = computed(() =>
    [...takesIn(lesson.programme)].some((take) => lesson.soundUrl(take) !== null && !peaks.value.has(take)),
  );

  return { peaks, isListening, profileOfTake, speechOf, masteringNow, mastering };
});

function profileOf(url: string): Promise<ProfileReport> {
  return new Promise((resolve) => {
    const worker = new ProfileWorker();
    worker.onmessage = ({ data }: MessageEvent<ProfileReport>) => {
      resolve(data);
      worker.terminate();
    };
    worker.onerror = () => resolve(null);
    worker.postMessage(url);
  });
}
