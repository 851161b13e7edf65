import type { LessonId, TakeId } from '@kite-trail/core/lesson/ids';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { z } from 'zod';
import { tryOnScopeDispose } from '@vueuse/core';
import { useKeptJson } from '../device/kept-setting';
import { saveFile } from '../device/save-file';
import { ChangesDraft } from '../outbox/changes-draft';
import { takeInEarlierEdits } from '../outbox/earlier-edits';
import { PART_EVERY_MS, type Entry } from '../outbox/entry';
import { tellFound } from '../outbox/found';
import { httpSchool } from '../outbox/http-school';
import { OutboxLog } from '../outbox/log';
import { Outbox, type OutboxStatus } from '../outbox/outbox';
import type { Answer } from '../outbox/school';
import type { SetAside } from '../outbox/set-aside';
import { readSetAside, writeSetAside } from '../outbox/set-aside-file';
import { WebWindowLocks } from '../outbox/window-locks';
import { WINDOW_ID } from '../server/call';
import { useSession } from './session';

const NOTHING_OWED: OutboxStatus = {
  owed: new Map(),
  takes: new Set(),
  filesOwed: 0,
  partsOwed: 0,
  waitsFor: null,
  setAside: [],
};

/** Kept on this device until it is read, for it may be found on another screen. */
const foundRecordings = z.record(z.string(), z.string());

type AnswerHandler = (entry: Entry, answer: Answer) => void;
type RefusalHandler = (entry: Entry) => void;

/** What this device owes the school, and how that stands. */
export const useOutbox = defineStore('outbox', () => {
  const session = useSession();
  const status = shallowRef<OutboxStatus>(NOTHING_OWED);
  /** This device has no more room, or keeps nothing: what is made now lives in this window alone. */
  const isFull = ref(false);
  /** The browser has said whether it may clear what is kept here when the device runs short; `null` before it is asked. */
  const isPersistent = ref<boolean | null>(null);
  /** What was refused last, and why. */
  const refusal = ref<string | null>(null);
  /** What was found and saved of recordings that broke off, or were still on their way, by lesson. */
  const found = useKeptJson('kite-trail-found', foundRecordings, {});
  const drafts = new Set<ChangesDraft>();
  const answerHandlers = new Set<AnswerHandler>();
  const refusalHandlers = new Set<RefusalHandler>();
  let opened: Promise<Outbox> | null = null;
  let current: Outbox | null = null;

  /** Settles when what windows that are gone have left is this one's. */
  function open(): Promise<Outbox> {
    opened ??= begin().catch((error: unknown) => {
      opened = null;
      throw error;
    });
    return opened;
  }

  async function begin(): Promise<Outbox> {
    const locks = new WebWindowLocks(WINDOW_ID);
    const log = await OutboxLog.open();
    log.onFull = () => (isFull.value = true);
    const outbox = (current = new Outbox(log, httpSchool, locks));
    outbox.onChange = () => (status.value = outbox.status());
    outbox.onAnswer = (entry, answer) => {
      const told = entry.isLeft && answer.to === 'end' ? tellFound(entry, answer.lesson) : null;
      if (told) found.value = { ...found.value, [entry.lesson]: told };
      answerHandlers.forEach((handle) => handle(entry, answer));
    };
    outbox.onSetAside = (entry, why) => {
      refusal.value = `${why} It is kept on this device: what can be done is behind “set aside” above.`;
      refusalHandlers.forEach((handle) => handle(entry));
    };
    watch(
      () => session.person?.id,
      (whose) => (whose ? void outbox.signedIn(whose) : outbox.signedOut()),
    );
    if (session.person) await outbox.signedIn(session.person.id);
    await takeInEarlierEdits(outbox, localStorage);
    // Browsers may keep a page that was left, to go back to: it lets go of all, and begins anew when somebody does.
    globalThis.addEventListener?.('pagehide', () => {
      for (const draft of drafts) void draft.close();
      outbox.stop();
      locks.leave();
    });
    globalThis.addEventListener?.('pageshow', ({ persisted }) => persisted && location.reload());
    globalThis.addEventListener?.('online', () => outbox.retry());
    globalThis.document?.addEventListener('visibilitychange', () => void outbox.inherit());
    return outbox;
  }

  /** Sends what this device still owes, where it owes anything. */
  async function openIfUsed(): Promise<void> {
    if (await OutboxLog.exists()) await open();
  }

  /**
   * What is still on its way from here goes first, where what the school has of lessons is taken for all there is of them.
   * @throws Error with a message for the teacher where it cannot
   */
  async function allSent(lessons: readonly LessonId[]): Promise<void> {
    const opened = await open();
    for (const id of lessons) await opened.settled(id);
    if (lessons.some((id) => opened.isOwed(id, () => true))) {
      throw new Error('What you made here has not reached the school yet. Try again when it has.');
    }
  }

  /** Calls a function at each yes of the school, until whoever asked for it has ended, such as with their lesson. */
  function onAnswer(handle: AnswerHandler): void {
    answerHandlers.add(handle);
    tryOnScopeDispose(() => answerHandlers.delete(handle));
  }

  function onRefusal(handle: RefusalHandler): void {
    refusalHandlers.add(handle);
    tryOnScopeDispose(() => refusalHandlers.delete(handle));
  }

  async function draftOf(lesson: LessonId): Promise<ChangesDraft> {
    const draft = new ChangesDraft(await open(), lesson);
    drafts.add(draft);
    return draft;
  }

  /** Makes entries of what is in a draft, which takes nothing more. */
  async function endDraft(draft: ChangesDraft): Promise<void> {
    await draft.close();
    drafts.delete(draft);
  }

  /** Seconds of recordings that are only on this device. */
  const secondsToSend = computed(() => Math.ceil((status.value.partsOwed * PART_EVERY_MS) / 1000));
  /** Whether anything of a kind is owed right now; nothing is before the outbox is open. */
  const isOwed = (lesson: LessonId, isMeant: (entry: Entry) => boolean): boolean =>
    current?.isOwed(lesson, isMeant) ?? false;
  /** Whether this device itself holds a take that the school does not have whole. */
  const holds = (take: TakeId): boolean => status.value.takes.has(take);
  const owes = (lesson: LessonId): boolean => (status.value.owed.get(lesson) ?? 0) > 0;

  /** Asks the browser, once, not to clear what is kept here. */
  async function askToPersist(): Promise<void> {
    isPersistent.value ??= (await navigator.storage?.persist?.().catch(() => false)) ?? false;
  }

  const tryAgain = async (aside: SetAside): Promise<void> => (await open()).tryAgain(aside);
  const discard = async (aside: SetAside): Promise<void> => (await open()).discard(aside);
  async function saveToFile(aside: SetAside): Promise<void> {
    const bytes = await writeSetAside(aside.why, await (await open()).readAside(aside));
    saveFile(
      `${aside.kind} set aside ${new Date(aside.atMs).toISOString().slice(0, 10)}.zip`,
      new Blob([bytes as BlobPart]),
    );
  }

  /** Brings back what was saved to a file, and tries it again. @throws NoSetAsideFile, Refused, Unreachable */
  async function bringBack(file: Blob): Promise<void> {
    const { list, owed } = readSetAside(new Uint8Array(await file.arrayBuffer()));
    const outbox = await open();
    for (const aside of await outbox.bringBack(list, owed)) await outbox.tryAgain(aside);
  }

  /** Forgets all that is the teacher's here, who has deleted their account. */
  async function forgetAll(): Promise<void> {
    if (await OutboxLog.exists()) await (await open()).forgetAll();
  }

  /** It has been read, or something new has begun. */
  const forgetFound = (lesson: LessonId): void => {
    found.value = Object.fromEntries(Object.entries(found.value).filter(([id]) => id !== lesson));
  };

  const retry = async (): Promise<void> => (await open()).retry();

  return {
    status,
    isFull,
    isPersistent,
    refusal,
    found,
    forgetFound,
    forgetAll,
    secondsToSend,
    open,
    openIfUsed,
    allSent,
    onAnswer,
    onRefusal,
    draftOf,
    endDraft,
    owes,
    holds,
    isOwed,
    askToPersist,
    tryAgain,
    discard,
    saveToFile,
    bringBack,
    retry,
  };
});
