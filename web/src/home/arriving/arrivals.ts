import type { LessonWanted } from '@kite-trail/core/contract/archive';
import type { SchoolClass } from '@kite-trail/core/contract/class';
import type { AssetId, ClassId, LessonId } from '@kite-trail/core/lesson/ids';
import { proxy, wrap, type Remote } from 'comlink';
import { defineStore } from 'pinia';
import { ref, shallowRef, watch } from 'vue';
import { useSession } from '../../app/session';
import { api } from '../../server/api';
import { persistently } from '../../server/persistently';
import { upload } from '../../server/upload';
import type { ArchiveReader } from '../../workers/archive/archive.worker';
import ArchiveWorker from '../../workers/archive/archive.worker?worker';
import type { FoundArchive, FoundLesson } from '../../workers/archive/read-archive';
import { useLessons } from '../lessons';

/** A lesson that was found in an archive, and whether it is here. */
export interface Arriving extends FoundLesson {
  isHere: LessonWanted['isHere'];
}

/** What became of an archive's lessons. */
export interface Brought {
  titles: string[];
  failed: { title: string; why: string }[];
}

export type ArrivalStage =
  | { is: 'looking'; done: number }
  | ({ is: 'found'; lessons: readonly Arriving[] } & Pick<FoundArchive, 'unread' | 'isCutOff'>)
  | { is: 'coming'; done: number; title: string }
  | ({ is: 'here' } & Brought)
  | { is: 'refused'; why: string };

/** An archive from which lessons are brought in, whatever place of Home is shown, one archive at a time. */
export const useArrivals = defineStore('arrivals', () => {
  const session = useSession();
  const lessons = useLessons();
  const stage = shallowRef<ArrivalStage | null>(null);
  const fileName = ref('');
  /** Its dialog is open; what is on its way goes on without it. */
  const isShown = ref(false);
  /** Something that was dropped was not taken: one archive comes at a time. */
  const isAnyLeft = ref(false);
  /** Why nothing comes just now. */
  const waitsFor = ref<string | null>(null);
  let classes: FoundArchive['classes'] = [];
  /** Who reads the archive. */
  let reading: { worker: Worker; reader: Remote<ArchiveReader> } | null = null;
  let abort = new AbortController();

  /** Looks through an archive, to say what can be brought in. @param isOneOfMany other files came with it */
  async function open(file: File, isOneOfMany: boolean): Promise<void> {
    const isBusy = stage.value?.is === 'coming' || stage.value?.is === 'looking';
    if (!isBusy) close();
    isShown.value = true;
    isAnyLeft.value ||= isBusy || isOneOfMany;
    if (isBusy) return;
    const { signal } = abort;
    fileName.value = file.name;
    const worker = new ArchiveWorker();
    const reader = wrap<ArchiveReader>(worker);
    reading = { worker, reader };
    stage.value = { is: 'looking', done: 0 };
    try {
      const onDone = proxy((done: number) => {
        if (!signal.aborted) stage.value = { is: 'looking', done };
      });
      const found = await reader.look(file, onDone);
      const arriving: Arriving[] = [];
      for (const one of found.lessons) {
        const { isHere } = await wanted(one, signal);
        arriving.push({ ...one, isHere });
      }
      if (signal.aborted) return;
      classes = found.classes;
      stage.value = { is: 'found', lessons: arriving, unread: found.unread, isCutOff: found.isCutOff };
    } catch (error) {
      if (!signal.aborted) stage.value = { is: 'refused', why: (error as Error).message };
    }
  }

  const patiently = <Result>(what: () => Promise<Result>, signal: AbortSignal) =>
    persistently(
      () => {
        signal.throwIfAborted();
        return what();
      },
      (why) => (waitsFor.value = why),
      () => !signal.aborted,
    );
  const wanted = ({ lesson, assets }: FoundLesson, signal: AbortSignal) =>
    patiently(() => api.arriving(lesson.id, assetsOf(assets)), signal);
  const assetsOf = (assets: FoundLesson['assets']): AssetId[] => assets.map(({ asset }) => asset);

  /** Brings lessons in, one after the other; each is there whole, or not at all. What has come is not sent again. */
  async function bring(chosen: readonly Arriving[]): Promise<void> {
    const { signal } = abort;
    const brought: Brought = { titles: [], failed: [] };
    const total = chosen.reduce((sum, one) => sum + bytesOf(one), 1);
    let sent = 0;
    stage.value = { is: 'coming', done: 0, title: chosen[0]?.lesson.title ?? '' };
    for (const one of chosen) {
      const { title } = one.lesson;
      const before = sent;
      try {
        const missing = new Set((await wanted(one, signal)).missing);
        for (const { asset, path, sizeBytes } of one.assets) {
          stage.value = { is: 'coming', done: sent / total, title };
          if (missing.has(asset)) await send(asset, path, sizeBytes, signal);
          sent += sizeBytes;
        }
        const isCopy = one.isHere !== 'no';
        const into = await classesFor(one.lesson.id, signal);
        await patiently(() => api.bringLesson(one.lesson, isCopy, into), signal);
        brought.titles.push(title);
      } catch (error) {
        if (signal.aborted) return;
        brought.failed.push({ title, why: (error as Error).message });
      }
      sent = before + bytesOf(one);
    }
    stop();
    stage.value = { is: 'here', ...brought };
    isShown.value = true;
    await lessons.load().catch(() => {});
  }

  const bytesOf = ({ assets }: FoundLesson) => assets.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0);

  async function send(asset: AssetId, path: string, sizeBytes: number, signal: AbortSignal): Promise<void> {
    const file = await reading!.reader.file(path, sizeBytes);
    // That all of it has come is made sure of with the lesson.
    await patiently(() => upload(asset, file, async () => {}), signal);
  }

  /** The classes a lesson was in, by their names; those there are none of are made. */
  async function classesFor(lesson: LessonId, signal: AbortSignal): Promise<ClassId[]> {
    const within: ClassId[] = [];
    for (const { name, color, lessons: own } of classes) {
      if (!own.includes(lesson)) continue;
      const here: SchoolClass[] = await patiently(api.classes, signal);
      const found = here.find((one) => one.name === name);
      within.push(found?.id ?? (await patiently(() => api.makeClass({ name, color }), signal)));
    }
    return within;
  }

  function stop(): void {
    reading?.worker.terminate();
    reading = null;
    waitsFor.value = null;
  }

  /** Gives up what is not here yet; lessons that have come stay. */
  function close(): void {
    abort.abort();
    abort = new AbortController();
    stop();
    stage.value = null;
    isShown.value = isAnyLeft.value = false;
    void lessons.load().catch(() => {});
  }

  // Whoever signs in next on this device has not asked for it.
  watch(
    () => session.teacher?.id,
    () => stage.value && close(),
  );

  return { stage, fileName, isShown, isAnyLeft, waitsFor, open, bring, close };
});
