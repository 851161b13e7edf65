import type { TakeId } from '@kite-trail/core/lesson/ids';
import { encodeProfile } from '@kite-trail/core/formats/profile-coding';
import { masteringOf, type Mastering } from '@kite-trail/core/sound/mastering';
import { PeakLevels } from '@kite-trail/core/sound/peaks';
import { profileParts, type ProfilePart, type TakeProfile } from '@kite-trail/core/sound/profile';
import { takesIn, voiceOf, type Programme } from '@kite-trail/core/trail/programme';
import { defineStore } from 'pinia';
import { computed, shallowRef, watch } from 'vue';
import { api, takeProfileUrl } from '../server/api';
import type { ProfileReport, ProfileTask } from '../workers/profile.worker';
import ProfileWorker from '../workers/profile.worker?worker';
import { useLesson } from './lesson';

/** More would not be done sooner, but take more memory. */
const MOST_LISTENERS = 4;

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
    const kept = new URL(takeProfileUrl(take), location.href).href;
    const sound = new URL(url, location.href).href;
    const learnt = (isKept(take) ? report({ kept }) : Promise.resolve(null))
      .then((found) => found ?? listen(sound, summaryOf(take)?.lengthSamples ?? 0))
      .then((found) => {
        // A sound that cannot be read is drawn as silence; playing it says what is wrong.
        if (found) know(take, found);
        else peaks.value = new Map(peaks.value).set(take, new PeakLevels(new Uint8Array()));
      });
    asked.set(take, learnt);
    return learnt;
  }

  const summaryOf = (take: TakeId) => lesson.document?.takes.find(({ id }) => id === take);
  const isKept = (take: TakeId) => summaryOf(take)?.hasProfile ?? false;

  /** Takes in what is known of a take's voice; a take that was just recorded needs not be listened to. */
  function know(take: TakeId, profile: TakeProfile): void {
    asked.set(take, Promise.resolve());
    profiles.value = new Map(profiles.value).set(take, profile);
    peaks.value = new Map(peaks.value).set(take, new PeakLevels(profile.peaks));
    void keep();
  }

  // What the server does not know yet spares the next visit the listening.
  watch(
    () => lesson.document?.takes,
    () => void keep(),
  );
  const sent = new Set<TakeId>();
  async function keep(): Promise<void> {
    for (const [take, profile] of profiles.value) {
      const summary = summaryOf(take);
      if (!summary?.ended || summary.hasProfile || sent.has(take)) continue;
      sent.add(take);
      // Where it does not arrive, the next visit listens again.
      await api.keepProfile(take, encodeProfile(profile)).catch(() => {});
    }
  }

  const profileOfTake = (take: TakeId) => profiles.value.get(take);
  const speechOf = (take: TakeId) => profiles.value.get(take)?.speech ?? [];

  const masteringFor = (programme: Programme) => masteringOf(programme, lesson.edition.sound, profileOfTake);
  /** Of an hour this takes a while, and every touch of the trail asks for it. */
  const masteringOfTrail = computed(() => masteringFor(lesson.programme));

  /** How a programme is mastered as far as its voices are known by now. */
  const masteringNow = (programme: Programme): Mastering =>
    programme === lesson.programme ? masteringOfTrail.value : masteringFor(programme);

  /** How a programme is mastered, when all its voices are known. */
  async function mastering(programme: Programme): Promise<Mastering> {
    await ask(programme);
    return masteringNow(programme);
  }

  /** Some are not known yet. */
  const isListening = computed(() =>
    [...takesIn(lesson.programme)].some((take) => lesson.soundUrl(take) !== null && !peaks.value.has(take)),
  );

  return { peaks, isListening, know, profileOfTake, speechOf, masteringNow, mastering };
});

/** Listens to a sound in parts, side by side. */
async function listen(sound: string, lengthSamples: number): Promise<TakeProfile | null> {
  const listeners = Math.min(MOST_LISTENERS, navigator.hardwareConcurrency || 1);
  const parts = await Promise.all(profileParts(lengthSamples, listeners).map((part) => report({ sound, part })));
  return parts.every((part): part is ProfilePart => part !== null) ? report({ parts }) : null;
}

function report<Task extends ProfileTask>(task: Task): Promise<ProfileReport<Task>> {
  return new Promise((resolve) => {
    const worker = new ProfileWorker();
    worker.onmessage = ({ data }: MessageEvent<ProfileReport<Task>>) => {
      resolve(data);
      worker.terminate();
    };
    worker.onerror = () => resolve(null);
    worker.postMessage(task);
  });
}
