import { decodeTakePart } from '@kite-trail/core/formats/take-part';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { LessonId, TakeId } from '@kite-trail/core/lesson/ids';
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import { takesIn } from '@kite-trail/core/trail/programme';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { Journal, type JournalTake } from '../capture/journal';
import { PART_EVERY_MS, type TakeRecorder } from '../capture/take-recorder';
import { takeLock, Uploader, type UploadState } from '../capture/uploader';
import { api } from '../server/api';
import { useEditing } from './editing';
import { useLesson } from './lesson';

/** Takes on their way to the server: the one being recorded, those just ended, and what a crash left on this device. */
export const useSending = defineStore('sending', () => {
  const lesson = useLesson();
  const editing = useEditing();
  const state = ref<UploadState>('done');
  const partsHere = ref(0);
  const partsSafe = ref(0);
  const deviceFull = ref(false);
  const problem = ref<string | null>(null);
  /** What was found and saved of recordings that broke off. */
  const found = ref<string | null>(null);
  let uploader: Uploader | null = null;
  /** Takes end on the server in the order in which they were recorded, for each is made on top of those before it. */
  let earlier: Promise<unknown> = Promise.resolve();

  /** Seconds that are only on this device. */
  const secondsToSend = computed(() =>
    Math.ceil((Math.max(0, partsHere.value - partsSafe.value) * PART_EVERY_MS) / 1000),
  );

  let journal: Promise<Journal> | null = null;
  function openJournal(): Promise<Journal> {
    journal ??= Journal.open().then((opened) => {
      opened.onFull = () => (deviceFull.value = true);
      return opened;
    });
    return journal;
  }

  /** Sends a take along while it is recorded. @returns tells that it has ended, and as what */
  async function sendAlong(take: JournalTake, from: TakeRecorder): Promise<(ended: JournalTake) => void> {
    const sender = new Uploader(await openJournal(), take);
    uploader = sender;
    partsHere.value = partsSafe.value = 0;
    sender.onState = (now) => (state.value = now);
    sender.onSafe = (parts) => (partsSafe.value = parts);
    from.onPart = (n) => {
      partsHere.value = n + 1;
      sender.added(n);
    };
    const before = earlier;
    // Held until the take is the server's: no other window may take it for abandoned meanwhile.
    const sent = navigator.locks.request(takeLock(take.id), async () => {
      try {
        const fresh = await sender.run();
        if (fresh) await lesson.acceptTake(fresh, take.id);
      } catch (error) {
        problem.value = `${(error as Error).message} The recording stays safe on this device.`;
      }
    });
    earlier = Promise.all([before, sent]);
    // What was edited before it was begun is the server's first.
    return (ended) => void Promise.all([before, editing.sent()]).then(() => sender.ended(from.partCount, ended));
  }

  /** Hands over what this device still holds of the lesson's recordings, such as one a crash cut off. */
  async function recover(id: LessonId): Promise<void> {
    if (!window.isSecureContext) return;
    const opened = await openJournal();
    for (const take of await opened.takes()) {
      if (take.lesson !== id) continue;
      await navigator.locks.request(takeLock(take.id), { ifAvailable: true }, async (lock) => {
        if (lock) await handOver(opened, take);
      });
    }
  }

  async function handOver(opened: Journal, take: JournalTake): Promise<void> {
    const parts = await opened.parts(take.id);
    if (parts.length === 0) return opened.forget(take.id);
    const sender = new Uploader(opened, take, parts.length);
    uploader = sender;
    sender.onState = (now) => (state.value = now);
    sender.ended(parts.length);
    const fresh = await sender.run();
    if (!fresh) return;
    await lesson.accept(fresh);
    lesson.layDesk();
    const { toSamples } = decodeTakePart(parts.at(-1)!.bytes);
    found.value = told(take, fresh, Math.round(samplesToSeconds(toSamples)));
  }

  /** Takes that broke off on a device that is not here: keeps what the server has of them. */
  async function keepAbandoned(take: TakeId): Promise<void> {
    await lesson.accept(await api.endTake(take, { parts: 0, recover: true }));
    lesson.layDesk();
  }

  const retry = () => uploader?.retry();
  window.addEventListener('online', retry);

  return {
    state,
    partsHere,
    partsSafe,
    secondsToSend,
    deviceFull,
    problem,
    found,
    openJournal,
    sendAlong,
    recover,
    keepAbandoned,
    retry,
  };
});

function told(take: JournalTake, { edition }: LessonDocument, seconds: number): string {
  const what = take.ended ? 'was still on its way to the server' : 'had broken off here';
  const plays = !takesIn(edition.programme).has(take.id)
    ? 'waits in the list of takes, for the trail was edited meanwhile'
    : take.plan.kind === 'carry-on'
      ? 'plays at the end of the trail'
      : 'plays in its place in the trail';
  return `A recording of ${seconds} seconds ${what}. It is saved, and ${plays}.`;
}
