import { MOST_LOUDNESS_STEPS } from '@kite-trail/core/contract/upload';
import type { TakeSummary } from '@kite-trail/core/contract/lesson';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import { masteringOf, type Mastering } from '@kite-trail/core/sound/mastering';
import { PeakLevels } from '@kite-trail/core/sound/peaks';
import { NOTHING_HEARD, unheard, type HeardVoice, type TakeProfile } from '@kite-trail/core/sound/profile';
import { ribbonOf } from '@kite-trail/core/sound/ribbon';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import type { Stretch } from '@kite-trail/core/trail/edit';
import { programmeLength, takesIn, voiceOf, type Programme } from '@kite-trail/core/trail/programme';
import { computed, shallowRef, watch } from 'vue';
import type { ServedSound } from '../playback/served-sound';
import { takeProfileUrl } from '../server/api';
import type { ProfileReport, ProfileTask } from '../workers/sound/profile.worker';
import ProfileWorker from '../workers/sound/profile.worker?worker';
import { useLesson } from './lesson';
import { useVoiceUrls } from './voice-urls';
import { useOutbox } from '../app/outbox';
import { ofLesson } from './lesson-scope';

/** So finely a student sees how loud the voice is, as far as there is room. */
const LOUDNESS_STEP_SAMPLES = secondsToSamples(0.1);
/** More would not be done sooner, but take more memory. */
const MOST_LISTENERS = 4;

/** What is known of the takes' voices: found out once each, beside the interface. */
export const useVoices = ofLesson(() => {
  const lesson = useLesson();
  const voiceUrls = useVoiceUrls();
  const outbox = useOutbox();
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
    const known = asked.get(take);
    if (known) return known;
    if (!voiceUrls.of(take)) return Promise.resolve();
    const learnt = keptVoice(take).then((heard) => findOut(take, heard));
    asked.set(take, learnt);
    return learnt;
  }

  /** Takes in what was heard of a take while it was recorded. */
  function know(take: TakeId, heard: HeardVoice): void {
    asked.set(take, findOut(take, heard));
  }

  function summaryOf(take: TakeId): TakeSummary | undefined {
    return lesson.document?.takes.find(({ id }) => id === take);
  }

  /** What is kept of a voice: all of it, or the minutes that were heard before a recording broke off. */
  async function keptVoice(take: TakeId): Promise<HeardVoice> {
    const kept = new URL(takeProfileUrl(take), location.href).href;
    return (summaryOf(take)?.hasProfile && (await report({ kept }))) || NOTHING_HEARD;
  }

  /** Listens to what was not heard of a voice yet, and keeps that for the next visit. */
  async function findOut(take: TakeId, heard: HeardVoice): Promise<void> {
    const sound = voiceUrls.of(take);
    const rest = sound ? await listen(sound, unheard(heard, summaryOf(take)?.lengthSamples ?? 0, listeners())) : [];
    const known = await report({ heard: [heard, ...rest] });
    if (known) profiles.value = new Map(profiles.value).set(take, known.profile);
    // A sound that cannot be read is drawn as silence; playing it says what is wrong.
    peaks.value = new Map(peaks.value).set(take, new PeakLevels(known?.profile.peaks ?? new Uint8Array()));
    const { document } = lesson;
    if (!known || rest.length === 0 || !document || !summaryOf(take)?.ended) return;
    await (await outbox.open()).add(document.id, { kind: 'profile', take, payload: known.bytes });
  }

  const profileOfTake = (take: TakeId) => profiles.value.get(take);
  const speechOf = (take: TakeId) => profiles.value.get(take)?.speech ?? [];

  const masteringFor = (programme: Programme) => masteringOf(programme, lesson.edition.sound, profileOfTake);
  /** Of an hour this takes a while, and every touch of the trail asks for it. */
  const masteringOfTrail = computed(() => masteringFor(lesson.programme));

  /** How a programme is mastered as far as its voices are known by now. */
  const masteringNow = (programme: Programme): Mastering =>
    programme === lesson.programme ? masteringOfTrail.value : masteringFor(programme);

  /** A programme's sound for those who get it encoded, when all its voices are known. */
  async function served(programme: Programme): Promise<ServedSound> {
    await ask(programme);
    const voices = voiceUrls.sourcesOf(programme);
    // It is of the edition of now, whatever is chosen while it is made.
    const { sound } = lesson.edition;
    const masteringUnder = (ceilingDb?: number) => masteringOf(programme, sound, profileOfTake, ceilingDb);
    return { alike: JSON.stringify([programme, sound]), programme, voices, masteringUnder };
  }

  /** Some are not known yet. */
  const isListening = computed(() =>
    [...takesIn(lesson.programme)].some((take) => voiceUrls.of(take) !== null && !peaks.value.has(take)),
  );

  /** How loud a programme is from step to step, a byte each, for whoever sees its map. */
  function loudnessOf(programme: Programme): Uint8Array {
    const toSamples = programmeLength(programme);
    const steps = Math.max(1, Math.min(MOST_LOUDNESS_STEPS, Math.ceil(toSamples / LOUDNESS_STEP_SAMPLES)));
    const ribbon = ribbonOf(programme, peaks.value, { fromSamples: 0, toSamples }, steps);
    return Uint8Array.from(ribbon, (one) => Math.round(one * 255));
  }

  return { peaks, isListening, know, profileOfTake, speechOf, masteringNow, served, loudnessOf };
});

const listeners = () => Math.min(MOST_LISTENERS, navigator.hardwareConcurrency || 1);

/** Listens to parts of a sound side by side. @returns what was heard up to the first that cannot be read */
async function listen(sound: string, parts: readonly Stretch[]): Promise<HeardVoice[]> {
  const url = new URL(sound, location.href).href;
  const inTurn: HeardVoice[] = [];
  for (const heard of await Promise.all(parts.map((part) => report({ sound: url, part })))) {
    if (!heard) break;
    inTurn.push(heard);
  }
  return inTurn;
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
