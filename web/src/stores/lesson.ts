import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { decodeMarks, decodePieces, encodeMarks, encodePieces } from '@kite-trail/core/formats/marks-coding';
import type { LessonId, PageId, TakeId } from '@kite-trail/core/lesson/ids';
import type { Change, Mark } from '@kite-trail/core/lesson/mark';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { applyChange, sceneOf, type Scene } from '@kite-trail/core/lesson/scene';
import { append } from '@kite-trail/core/trail/edit';
import { programmeLength, type Programme } from '@kite-trail/core/trail/programme';
import type { Take } from '@kite-trail/core/trail/take';
import { Timeline } from '@kite-trail/core/trail/timeline';
import { flatten } from '@kite-trail/core/trail/trail';
import { nanoid } from 'nanoid';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { atOnce } from '../capture/take-recorder';
import { api, Refused, takeSoundUrl, Unreachable } from '../server/api';
import { useDesk } from './desk';

const SAVE_AFTER_MS = 600;
const TRY_AGAIN_MS = 3000;

export type SaveState = 'saved' | 'saving' | 'waiting-for-network' | 'waiting-for-sign-in' | { failed: string };

/** The lesson that is open: what the server knows of it, and what this window has added since. */
export const useLesson = defineStore('lesson', () => {
  const desk = useDesk();
  const document = shallowRef<LessonDocument | null>(null);
  const takes = shallowRef<ReadonlyMap<TakeId, Take>>(new Map());
  const base = shallowRef<Scene | null>(null);
  const between = shallowRef<readonly Mark[]>([]);
  /** What plays; it runs ahead of the document while a new take is on its way to the server. */
  const programme = shallowRef<Programme>([]);
  const saveState = ref<SaveState>('saved');
  /** Sounds that are still only on this device, as object URLs. */
  const localSounds = new Map<TakeId, string>();
  let revision = 0;
  let saveTimer = 0;
  let saving: Promise<void> = Promise.resolve();

  const timeline = computed(() =>
    base.value ? new Timeline(base.value, flatten(programme.value, takes.value)) : null,
  );
  const lengthSamples = computed(() => programmeLength(programme.value));
  const isRecorded = computed(() => programme.value.length > 0);
  /** The server has every take that plays. Until then, nothing can be edited or shared. */
  const isWithServer = computed(() =>
    programme.value.every(({ take }) => document.value?.takes.some((one) => one.id === take && one.ended)),
  );

  async function open(id: LessonId): Promise<void> {
    close();
    await accept(await api.lesson(id));
    layDesk();
  }

  function close(): void {
    clearTimeout(saveTimer);
    for (const url of localSounds.values()) URL.revokeObjectURL(url);
    localSounds.clear();
    takes.value = new Map();
    document.value = null;
    base.value = null;
    programme.value = [];
  }

  /** Takes over what the server says of the lesson; takes never change, so those known are kept. */
  async function accept(fresh: LessonDocument): Promise<void> {
    const known = new Map(takes.value);
    for (const take of fresh.takes) {
      if (!take.ended || known.has(take.id)) continue;
      const marks = take.marks ? decodeMarks(await api.takeMarks(take.id)) : [];
      known.set(take.id, { id: take.id, lengthSamples: take.lengthSamples, sound: take.sound, marks });
    }
    revision = fresh.revision;
    document.value = fresh;
    takes.value = known;
    base.value = sceneOf(fresh.pages.map(({ page, pieces }) => ({ page, pieces: decodePieces(fromBase64(pieces)) })));
    between.value = decodeMarks(fromBase64(fresh.between));
    // An equal programme is kept, so that what is playing goes on.
    if (JSON.stringify(fresh.programme) !== JSON.stringify(programme.value)) programme.value = fresh.programme;
  }

  /** Takes over the server's word of a take it has got; what was changed here meanwhile stays to be saved. */
  async function acceptTake(fresh: LessonDocument): Promise<void> {
    const changedSince = between.value;
    await accept(fresh);
    between.value = changedSince;
  }

  /** Lays the lesson as it stands after its last take, and what was changed since, on the desk. */
  function layDesk(): void {
    const end = timeline.value?.end;
    if (end) desk.lay(between.value.reduce(applyChange, end));
    desk.sendTo(keep);
  }

  /** Keeps a change made outside a recording: in the pages before the first take, then for the next take. */
  function keep(change: Change): void {
    if (isRecorded.value) between.value = [...between.value, { ...atOnce(change), atSamples: 0 }];
    else if (change.kind !== 'turn') base.value = { ...desk.scene!, shown: desk.scene!.pages[0].page.id };
    saveState.value = 'saving';
    clearTimeout(saveTimer);
    saveTimer = window.setTimeout(() => void save(), SAVE_AFTER_MS);
  }

  /** Saves what has changed; saves follow one another. */
  function save(): Promise<void> {
    clearTimeout(saveTimer);
    saving = saving.then(saveOnce);
    return saving;
  }

  async function saveOnce(): Promise<void> {
    if (!document.value || saveState.value === 'saved') return;
    const [pages, marks] = [base.value!.pages, between.value];
    try {
      revision = await api.savePages(document.value.id, {
        revision,
        pages: pages.map(({ page, pieces }) => ({ page, pieces: toBase64(encodePieces(pieces)) })),
        between: toBase64(encodeMarks(marks)),
      });
      if (pages === base.value?.pages && marks === between.value) saveState.value = 'saved';
    } catch (error) {
      saveState.value = saveProblem(error);
      if (typeof saveState.value === 'string') saveTimer = window.setTimeout(() => void save(), TRY_AGAIN_MS);
    }
  }

  function addPage(): void {
    const page = wideSquaredPage(nanoid(12) as PageId);
    desk.change({ kind: 'add-page', page, after: desk.scene!.shown });
    desk.turnTo(page.id);
  }

  /** Makes a take that has just ended part of the lesson, before the server has it. */
  function addTake(take: Take, sound: Blob | null): void {
    if (sound) localSounds.set(take.id, URL.createObjectURL(sound));
    takes.value = new Map(takes.value).set(take.id, take);
    programme.value = append(programme.value, { take: take.id, toSamples: take.lengthSamples });
    between.value = [];
  }

  /** Where a take's sound can be played from, or `null` where it has none. */
  function soundUrl(take: TakeId): string | null {
    return localSounds.get(take) ?? (takes.value.get(take)?.sound ? takeSoundUrl(take) : null);
  }

  async function edit(edited: Programme): Promise<void> {
    await save();
    await accept(await api.edit(document.value!.id, edited));
    layDesk();
  }

  async function stepEdits(step: -1 | 1): Promise<void> {
    const { id } = document.value!;
    await accept(await (step < 0 ? api.undoEdit(id) : api.redoEdit(id)));
    layDesk();
  }

  return {
    document,
    takes,
    base,
    between,
    programme,
    timeline,
    lengthSamples,
    isRecorded,
    isWithServer,
    saveState,
    open,
    close,
    accept,
    acceptTake,
    layDesk,
    save,
    addPage,
    addTake,
    soundUrl,
    edit,
    stepEdits,
  };
});

function saveProblem(error: unknown): SaveState {
  if (error instanceof Unreachable) return 'waiting-for-network';
  if (error instanceof Refused && error.status === 401) return 'waiting-for-sign-in';
  return { failed: error instanceof Error ? error.message : String(error) };
}

const toBase64 = (bytes: Uint8Array): string => {
  let text = '';
  for (const byte of bytes) text += String.fromCharCode(byte);
  return btoa(text);
};

const fromBase64 = (text: string): Uint8Array => Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0));
