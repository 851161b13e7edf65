import type { EditState } from '@kite-trail/core/contract/edition';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { decodeHistory, encodeHistory, type History } from '@kite-trail/core/formats/history-coding';
import { decodeContents, decodeMarks, encodeMarks, pageStateFrom } from '@kite-trail/core/formats/marks-coding';
import type { LessonId, PageId, TakeId } from '@kite-trail/core/lesson/ids';
import { isPassing, unreadAmong, type Change, type Mark } from '@kite-trail/core/lesson/mark';
import { followed } from '@kite-trail/core/lesson/merge';
import { applyChange, pageStateOf, sceneOf, type Scene } from '@kite-trail/core/lesson/scene';
import { placeTake, type PlannedTake, type TakePlan } from '@kite-trail/core/trail/plan';
import { NOTHING_EDITED, type Edition } from '@kite-trail/core/trail/edition';
import { withInkEdits } from '@kite-trail/core/trail/ink-edits';
import { programmeLength, takesIn, voiceOf, type Programme } from '@kite-trail/core/trail/programme';
import type { Take } from '@kite-trail/core/trail/take';
import { Timeline } from '@kite-trail/core/trail/timeline';
import { flatten } from '@kite-trail/core/trail/trail';
import equal from 'fast-deep-equal';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { z } from 'zod';
import { ChangesKeeper, sendLeftChanges } from '../capture/left-changes';
import { atOnce } from '../capture/take-recorder';
import { api, newsUrl, Refused, takeSoundUrl, Unreachable, WINDOW_ID } from '../server/api';
import { fromBase64, toBase64 } from '../server/base64';
import { useDesk } from './desk';
import { useFiles } from './files';

/** What the server tells: another window's change, or who records now. */
const lessonNews = z.union([z.object({ holder: z.string().nullable() }), z.object({ window: z.string() })]);

const SAVE_AFTER_MS = 600;
const TRY_AGAIN_MS = 3000;

export type SaveState = 'saved' | 'saving' | 'waiting-for-network' | 'waiting-for-sign-in' | { failed: string };

/** The lesson that is open: what the server knows of it, and what this window has added since. */
export const useLesson = defineStore('lesson', () => {
  const desk = useDesk();
  const files = useFiles();
  const document = shallowRef<LessonDocument | null>(null);
  const takes = shallowRef<ReadonlyMap<TakeId, Take>>(new Map());
  const base = shallowRef<Scene | null>(null);
  const between = shallowRef<readonly Mark[]>([]);
  /** What viewers get; it runs ahead of the document while takes and edits are on their way to the server. */
  const edition = shallowRef<Edition>(NOTHING_EDITED);
  const saveState = ref<SaveState>('saved');
  /** What another window has done to this one's work. */
  const notice = ref<string | null>(null);
  /** Changes that the server has not got yet. */
  let pending: readonly Mark[] = [];
  let sending = 0;
  let keeper: ChangesKeeper | null = null;
  let news: EventSource | null = null;
  let stopListening = () => {};
  /** Sounds that are still only on this device, as object URLs. */
  const localSounds = new Map<TakeId, string>();
  /** Takes that have ended here but not on the server, with where they play. */
  const onTheWay = shallowRef<ReadonlyMap<TakeId, PlannedTake>>(new Map());
  /** The window that records this lesson, as far as is known. */
  const holder = ref<string | null>(null);
  /** Edits made here are on their way to the server. */
  const isEditing = ref(false);
  /** This window listens even out of sight. */
  const listensAlways = ref(false);
  /** How often the server came back after it could not be heard. */
  const reconnections = ref(0);
  let revision = 0;
  let saveTimer = 0;
  let saving: Promise<void> = Promise.resolve();

  const programme = computed(() => edition.value.programme);
  const inkEdits = computed(() => edition.value.inkEdits);
  /** The pages and takes with their ink as it was edited. */
  const recorded = computed(() =>
    base.value ? withInkEdits({ base: base.value, takes: takes.value }, inkEdits.value, programme.value) : null,
  );
  const timeline = computed<Timeline | null>((earlier) => {
    if (!recorded.value) return null;
    const { base, takes } = recorded.value;
    return new Timeline(base, flatten(programme.value, takes, earlier?.trail), earlier ?? undefined);
  });
  const lengthSamples = computed(() => programmeLength(programme.value));
  /** How much of what is stored could not be read here: it is kept as it is, and not shown. */
  const unreadCount = computed(() => {
    const onPages = (base.value?.pages ?? []).map(({ unread }) => unread?.length ?? 0);
    const inTakes = [...takes.value.values()].map(({ marks }) => unreadAmong(marks));
    return [...onPages, ...inTakes, unreadAmong(between.value)].reduce((sum, count) => sum + count, 0);
  });
  /** Something was recorded once: what is changed from now on begins the next take. */
  const isRecorded = computed(() => programme.value.length > 0 || (document.value?.edit.n ?? 0) > 0);
  /** The server has every take. Until then, nothing can be edited or shared. */
  const isWithServer = computed(() => onTheWay.value.size === 0);
  /** Another window or device records this lesson: here it can only be looked at. */
  const recordedElsewhere = computed(() => holder.value !== null && holder.value !== WINDOW_ID);
  /** Every ended take with its plan, in the order in which they were recorded. */
  const plannedTakes = computed<PlannedTake[]>(() => [
    ...(document.value?.takes ?? []).filter(({ id, ended }) => ended && !onTheWay.value.has(id)),
    ...onTheWay.value.values(),
  ]);

  async function open(id: LessonId): Promise<void> {
    close();
    await files.open(id);
    await handOverLeft(id);
    await accept(await api.lesson(id));
    keeper = new ChangesKeeper(id, WINDOW_ID);
    layDesk(decodeHistory(fromBase64(document.value!.history)));
    listen(id);
  }

  /** Sends what was changed on this device but did not reach the server, such as when a tab was closed offline. */
  async function handOverLeft(id: LessonId): Promise<void> {
    await sendLeftChanges(id, WINDOW_ID, async ({ revision: from, marks, history }) => {
      await files.sent();
      try {
        await api.changeLesson(id, { revision: from, marks: toBase64(marks), history: toBase64(history) });
      } catch (error) {
        if (!(error instanceof Refused) || error.status === 401 || error.status >= 500) throw error;
        notice.value = `Changes from an earlier visit could not be added: ${error.message}`;
      }
    });
  }

  /**
   * Hears when another window changes the lesson. After a break, anything may have happened. Browsers keep few connections
   * to one server, so a window out of sight listens only while it records.
   */
  function listen(id: LessonId): void {
    let isFirst = true;
    const connect = () => {
      news = new EventSource(newsUrl(id));
      news.onopen = () => {
        if (!isFirst) {
          reconnections.value++;
          void refresh();
        }
        isFirst = false;
      };
      news.onmessage = ({ data }) => {
        const told = lessonNews.parse(JSON.parse(data));
        if ('holder' in told) holder.value = told.holder;
        else if (told.window !== WINDOW_ID) void refresh();
      };
    };
    const seen = () => {
      if (globalThis.document.visibilityState === 'visible') return news ? undefined : connect();
      if (listensAlways.value) return;
      news?.close();
      news = null;
    };
    connect();
    globalThis.document.addEventListener('visibilitychange', seen);
    stopListening = () => {
      globalThis.document.removeEventListener('visibilitychange', seen);
      news?.close();
      news = null;
    };
  }

  /** Shows what another window has done. A take being recorded goes on undisturbed. */
  async function refresh(): Promise<void> {
    await save();
    if (pending.length > 0 || !document.value || !desk.isOwnedBy(keep)) return;
    try {
      await accept(await api.lesson(document.value.id));
      if (desk.isOwnedBy(keep)) layDesk(desk.history, desk.scene?.shown);
    } catch {
      // The next news, or the next save, tries again.
    }
  }

  function close(): void {
    clearTimeout(saveTimer);
    stopListening();
    pending = [];
    saveState.value = 'saved';
    notice.value = null;
    for (const url of localSounds.values()) URL.revokeObjectURL(url);
    localSounds.clear();
    takes.value = new Map();
    onTheWay.value = new Map();
    holder.value = null;
    document.value = null;
    base.value = null;
    isEditing.value = false;
    edition.value = NOTHING_EDITED;
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
    // An edit on its way was made from what was in force then, and must say so.
    const madeFrom = isEditing.value && document.value ? { edit: document.value.edit } : {};
    document.value = { ...fresh, ...madeFrom };
    takes.value = known;
    base.value = sceneOf(
      fresh.pages.map(({ page, pieces }) => pageStateFrom(page, decodeContents(fromBase64(pieces)))),
    );
    // With takes or edits on the way, the server is behind.
    if (onTheWay.value.size > 0) return;
    between.value = decodeMarks(fromBase64(fresh.between));
    if (isEditing.value) return;
    lay(fresh.edition);
  }

  /** Takes over what the server says of an edit. */
  function acceptEdit(state: EditState): void {
    if (document.value) document.value = { ...document.value, ...state };
    lay(state.edition);
  }

  /** Puts an edition in the place of the one that is shown. Its equal parts are kept, so that what is playing goes on. */
  function lay(fresh: Edition): void {
    const now = edition.value;
    const same = <K extends keyof Edition>(part: K): Edition[K] =>
      equal(fresh[part], now[part]) ? now[part] : fresh[part];
    const next: Edition = {
      programme: same('programme'),
      inkEdits: same('inkEdits'),
      chapters: same('chapters'),
      captions: same('captions'),
      sound: same('sound'),
    };
    const isOther = (Object.keys(next) as (keyof Edition)[]).some((part) => next[part] !== now[part]);
    if (isOther) edition.value = next;
  }

  /** Takes over the server's word of a take it has got; what was changed here meanwhile stays to be saved. */
  async function acceptTake(fresh: LessonDocument, take: TakeId): Promise<void> {
    if (document.value?.id !== fresh.id) return;
    onTheWay.value = new Map([...onTheWay.value].filter(([id]) => id !== take));
    const changedSince = between.value;
    await accept(fresh);
    between.value = changedSince;
  }

  /** Lays the lesson as it stands after its last take, and what was changed since, on the desk. */
  function layDesk(history: History = desk.history, shown?: PageId): void {
    const trail = timeline.value;
    const since = between.value;
    const laid = (): Scene => {
      const scene = since.reduce(applyChange, trail!.end);
      return shown && pageStateOf(scene, shown) ? { ...scene, shown } : scene;
    };
    if (trail) desk.lay(laid, history);
    desk.sendTo(keep);
  }

  /** Keeps a change made outside a recording: in the pages before the first take, then for the next take. */
  function keep(change: Change): void {
    // Where the teacher points and looks is of no account before anything is recorded.
    if (isPassing(change) || change.kind === 'look') return;
    const mark: Mark = { ...atOnce(change), atSamples: 0 };
    if (isRecorded.value) between.value = withoutOlderStates(between.value, mark, 0);
    else if (change.kind !== 'turn') base.value = { ...desk.scene!, shown: desk.scene!.pages[0].page.id };
    if (change.kind === 'turn' && !isRecorded.value) return;
    pending = withoutOlderStates(pending, mark, sending);
    saveState.value = 'saving';
    keeper?.keep(revision, pending, desk.history);
    clearTimeout(saveTimer);
    saveTimer = window.setTimeout(() => void save(), SAVE_AFTER_MS);
  }

  // What can be undone changes after the change itself has been passed on.
  watch(
    () => desk.history,
    (history) => pending.length > 0 && keeper?.keep(revision, pending, history),
    { flush: 'sync' },
  );

  /** Saves what has changed; saves follow one another. */
  function save(): Promise<void> {
    clearTimeout(saveTimer);
    saving = saving.then(saveOnce);
    return saving;
  }

  async function saveOnce(): Promise<void> {
    if (!document.value || pending.length === 0) return;
    const kept = keeper;
    try {
      // Pictures and PDFs go first: the server takes no change that needs a file it has not got.
      await files.sent();
      sending = pending.length;
      const answer = await api.changeLesson(document.value.id, {
        revision,
        marks: toBase64(encodeMarks(pending)),
        history: toBase64(encodeHistory(desk.history)),
      });
      pending = pending.slice(sending);
      revision = answer.revision;
      if (pending.length === 0) {
        saveState.value = 'saved';
        kept?.forget();
      } else {
        kept?.keep(revision, pending, desk.history);
      }
      if (answer.merged) window.setTimeout(() => void refresh());
    } catch (error) {
      if (error instanceof Refused && error.code === 'changed-elsewhere') return giveWay(error.message);
      saveState.value = saveProblem(error);
      if (typeof saveState.value === 'string') saveTimer = window.setTimeout(() => void save(), TRY_AGAIN_MS);
    } finally {
      sending = 0;
    }
  }

  /** Another window was first: its state is shown, and the teacher is told. */
  function giveWay(message: string): void {
    pending = [];
    keeper?.forget();
    saveState.value = 'saved';
    notice.value = message;
    window.setTimeout(() => void refresh());
  }

  /** Makes a take that has just ended part of the lesson, before the server has it. */
  function addTake(take: Take, plan: TakePlan, sound: Blob | null): void {
    if (sound) localSounds.set(take.id, URL.createObjectURL(sound));
    const planned = { id: take.id, lengthSamples: take.lengthSamples, plan };
    takes.value = new Map(takes.value).set(take.id, take);
    onTheWay.value = new Map(onTheWay.value).set(take.id, planned);
    edition.value = { ...edition.value, programme: placeTake(programme.value, planned) ?? programme.value };
    if (plan.kind === 'carry-on') between.value = [];
  }

  /** Where a take's sound can be played from, or `null` where it has none. */
  function soundUrl(take: TakeId): string | null {
    return localSounds.get(take) ?? (takes.value.get(take)?.sound ? takeSoundUrl(take) : null);
  }

  /** The addresses of all voices of a programme, for workers. */
  function soundUrls(of: Programme): Map<TakeId, string> {
    const urls = new Map<TakeId, string>();
    for (const take of takesIn(of)) {
      const url = soundUrl(take);
      if (url && of.some((segment) => voiceOf(segment)?.take === take))
        urls.set(take, new URL(url, location.href).href);
    }
    return urls;
  }

  return {
    document,
    takes,
    base,
    between,
    edition,
    programme,
    recorded,
    isEditing,
    timeline,
    lengthSamples,
    unreadCount,
    isRecorded,
    isWithServer,
    recordedElsewhere,
    reconnections,
    listensAlways,
    plannedTakes,
    saveState,
    notice,
    open,
    close,
    accept,
    acceptTake,
    layDesk,
    save,
    addTake,
    soundUrl,
    soundUrls,
    lay,
    acceptEdit,
    refresh,
  };
});

/**
 * Marks with one more. While something is dragged, each new state of it takes the place of the one before.
 * @param from marks before this one stay as they are
 */
function withoutOlderStates(marks: readonly Mark[], mark: Mark, from: number): readonly Mark[] {
  const last = marks.length > from ? marks.at(-1) : undefined;
  const both = last && followed(last, mark);
  return both ? [...marks.slice(0, -1), { ...both, atSamples: mark.atSamples }] : [...marks, mark];
}

function saveProblem(error: unknown): SaveState {
  if (error instanceof Unreachable) return 'waiting-for-network';
  if (error instanceof Refused && error.status === 401) return 'waiting-for-sign-in';
  return { failed: error instanceof Error ? error.message : String(error) };
}
