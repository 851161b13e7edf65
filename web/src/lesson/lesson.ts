import type { EditState } from '@kite-trail/core/contract/edition';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { decodeHistory, type History } from '@kite-trail/core/formats/history-coding';
import { decodeContents, decodeMarks, pageStateFrom } from '@kite-trail/core/formats/marks-coding';
import type { LessonId, PageId, TakeId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { withNext } from '@kite-trail/core/lesson/merge';
import { applyChange, applyChanges, pageStateOf, sceneOf, type Scene } from '@kite-trail/core/lesson/scene';
import { placeTake, type PlannedTake, type TakePlan } from '@kite-trail/core/trail/plan';
import { withInkEdits } from '@kite-trail/core/trail/ink-edits';
import { programmeLength } from '@kite-trail/core/trail/programme';
import type { Take } from '@kite-trail/core/trail/take';
import { Timeline } from '@kite-trail/core/trail/timeline';
import { flatten } from '@kite-trail/core/trail/trail';
import equal from 'fast-deep-equal';
import { computed, onScopeDispose, ref, shallowRef } from 'vue';
import { takeOf, type Entry, type Owed } from '../outbox/entry';
import type { Kept } from '../outbox/log';
import type { Answer } from '../outbox/school';
import { api } from '../server/api';
import { takeFrom } from '../outbox/take-parts';
import { fromBase64 } from '../server/base64';
import { WINDOW_ID } from '../server/call';
import { persistently } from '../server/persistently';
import { useDesk } from './desk';
import { useDraft } from './draft';
import { useEdition } from './edition/edition';
import { useOtherWindows } from './other-windows';
import { useRecordingNow } from './recording-now';
import { useTakeSounds } from './take-sounds';
import { useFiles } from './files';
import { useOutbox } from '../app/outbox';
import { useNotices } from './notices';
import { ofLesson } from './lesson-scope';

const isChanges = ({ head }: Entry): boolean => head.kind === 'changes';
const isName = ({ head }: Entry): boolean => head.kind === 'name';
const isRecordedIn = ({ edit, edition }: LessonDocument): boolean => edit.n > 0 || edition.programme.length > 0;

const marksOf = (owed: Owed): Mark[] => (owed.kind === 'changes' ? decodeMarks(owed.payload.marks) : []);

const KEPT_IN_PART =
  'While this device could not be reached, the beginning of this recording was kept on another device. All of it is saved, and both are in the list of takes.';

/** So long opening a lesson waits for what is still owed of it. */
const SETTLED_WITHIN_MS = 5000;

/** The lesson that is open: what the server knows of it, and what this window has added since. */
export const useLesson = ofLesson(() => {
  const desk = useDesk();
  const recording = useRecordingNow();
  const draft = useDraft();
  const editions = useEdition();
  const sounds = useTakeSounds();
  const others = useOtherWindows();
  const files = useFiles();
  const outbox = useOutbox();
  const document = shallowRef<LessonDocument | null>(null);
  const takes = shallowRef<ReadonlyMap<TakeId, Take>>(new Map());
  const base = shallowRef<Scene | null>(null);
  const between = shallowRef<readonly Mark[]>([]);
  /** What viewers get; it runs ahead of the document while takes and edits are on their way to the server. */
  const edition = computed(() => editions.now);
  /** What another window has done to this one's work. */
  const notice = useNotices().place('news');
  /** The lesson that is being opened. */
  let opening: LessonId | null = null;
  /** Why it is not open yet: the school cannot be asked just now. */
  const waitsFor = ref<string | null>(null);
  let isClosed = false;
  /** The school has taken in or refused something that may be missing, or not, in what is shown. */
  let isStale = false;
  /** Counts what the school has answered of the lesson: what it said before an answer may lack what was answered. */
  let answers = 0;
  /** What the school says is taken over one after the other. */
  let accepting: Promise<unknown> = Promise.resolve();
  /** Takes that have ended here but not on the server, with where they play. */
  const onTheWay = shallowRef<ReadonlyMap<TakeId, PlannedTake>>(new Map());
  /** Edits made here are on their way to the server. */
  const isEditing = ref(false);
  /** Of the pages as they are shown here. */
  const revision = ref(0);
  /** The newest to which this window's own changes have led: with those of other windows, which may not be shown yet. */
  let answeredRevision = 0;

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
  /** Something was recorded once: what is changed from now on begins the next take. */
  const isRecorded = computed(
    () => programme.value.length > 0 || (document.value !== null && isRecordedIn(document.value)),
  );
  /** The server has every take. Until then, nothing can be edited or shared. */
  const isWithServer = computed(() => onTheWay.value.size === 0);
  /** Every ended take with its plan, in the order in which they were recorded. */
  const plannedTakes = computed<PlannedTake[]>(() => [
    ...(document.value?.takes ?? []).filter(({ id, ended }) => ended && !onTheWay.value.has(id)),
    ...onTheWay.value.values(),
  ]);

  async function open(id: LessonId): Promise<void> {
    opening = id;
    await files.open(id);
    // What this device still owes goes first, where it can; a large file is not waited for.
    const settled = (await outbox.open()).settled(id);
    await Promise.race([settled, new Promise((resolve) => setTimeout(resolve, SETTLED_WITHIN_MS))]);
    await draft.open(id);
    let history: History;
    let answersBefore: number;
    do {
      answersBefore = answers;
      onTheWay.value = new Map();
      isEditing.value = false;
      await persistently(
        async () => accept(await api.lesson(id)),
        (why) => (waitsFor.value = why),
        () => !isClosed,
      );
      history = await layOwed(id);
      // What the school has answered meanwhile may be neither in what it said nor owed: then it is asked again.
    } while (answers !== answersBefore && !isClosed);
    // It may be left again before it is open.
    if (isClosed) return;
    opening = null;
    layDesk(history);
    others.listen(id, () => void refresh());
  }

  /** Lays what the school is still owed on top of what it has. @returns what can be undone then */
  async function layOwed(id: LessonId): Promise<History> {
    const opened = await outbox.open();
    let history = decodeHistory(fromBase64(document.value!.history));
    for (const owed of await owedOf(id)) {
      if (owed.kind === 'changes') {
        for (const mark of decodeMarks(owed.payload.marks)) takeIn(mark, applyChange(base.value!, mark));
        history = decodeHistory(owed.payload.history);
      } else if (owed.kind === 'end') {
        const { take, sound } = takeFrom(owed.take, await opened.parts(owed.take), !owed.recover);
        addTake(take, owed.plan, sound);
      } else if (owed.kind === 'name') {
        document.value = { ...document.value!, ...owed.payload };
      } else if ('from' in owed) {
        isEditing.value = true;
        editions.put(owed.payload, 'school');
      }
    }
    return history;
  }

  /** What the school is owed, in its order, with what is being gathered. */
  async function owedOf(id: LessonId): Promise<Owed[]> {
    const opened = await outbox.open();
    let kept: Kept[];
    do {
      await draft.close();
      kept = await opened.owedBy(id);
    } while (draft.isGathering);
    return kept.map(({ entry, payload }) => ({ ...entry.head, payload }) as Owed);
  }

  /** Takes in a change as the school will have it: in the pages before the first take, then for the next take. */
  function takeIn(mark: Mark, pages: Scene): void {
    if (isRecorded.value) between.value = withNext(between.value, mark);
    else if (mark.kind !== 'turn') base.value = { ...pages, shown: pages.pages[0].page.id };
  }

  outbox.onAnswer((entry, answer) => {
    if (answer.to === 'other') return;
    if (entry.lesson === opening || entry.lesson === document.value?.id) answers++;
    if (entry.lesson !== opening && entry.lesson === document.value?.id) answered(entry, answer);
  });
  outbox.onRefusal((entry) => {
    if (entry.lesson !== document.value?.id) return;
    const take = takeOf(entry);
    onTheWay.value = new Map([...onTheWay.value].filter(([id]) => id !== take));
    // What the school has is shown; what it refused can be brought back.
    setTimeout(() => void refresh());
  });

  function answered(entry: Entry, answer: Answer): void {
    if (answer.to === 'changes') {
      const isOurs = entry.madeIn === WINDOW_ID;
      if (isOurs) answeredRevision = answer.revision;
      // What others have changed is not shown yet: a take that begins now does not begin on it.
      if (isOurs && !answer.merged) revision.value = answer.revision;
      if (answer.merged || !isOurs || isStale) setTimeout(() => void refresh());
    } else if (answer.to === 'end') {
      // What is edited from now on is edited on top of the take.
      document.value = { ...document.value!, edit: answer.lesson.edit };
      const isKeptInPart = answer.lesson.takes.some(({ id, keptAs }) => id === takeOf(entry) && keptAs !== null);
      if (isKeptInPart) notice.value = KEPT_IN_PART;
      void acceptTake(answer.lesson, takeOf(entry)!).then(() => {
        if (entry.isLeft) layDesk();
      });
    }
  }

  /** Shows what the school has, such as what another window has done. A take being recorded goes on undisturbed. */
  async function refresh(): Promise<void> {
    await save();
    const id = document.value?.id;
    // What cannot be shown now is shown after the next answer.
    isStale = true;
    if (!id || draft.isGathering || outbox.isOwed(id, isChanges) || recording.mark) return;
    const answersBefore = answers;
    try {
      const fresh = await api.lesson(id);
      if (answers !== answersBefore) return void setTimeout(() => void refresh());
      await accept(fresh);
      isStale = false;
      layDesk(desk.history, desk.scene?.shown);
    } catch {
      // The next news, or the next answer, tries again.
    }
  }

  onScopeDispose(() => {
    isClosed = true;
  });

  /** Takes over what the server says of the lesson, after what it said before. */
  function accept(fresh: LessonDocument): Promise<void> {
    const accepted = accepting.then(() => takeOver(fresh));
    accepting = accepted.catch(() => {});
    return accepted;
  }

  /** Takes never change, so those known are kept. */
  async function takeOver(fresh: LessonDocument): Promise<void> {
    const heard = new Map<TakeId, Take>();
    for (const { id, ended, marks: asset, lengthSamples, sound } of fresh.takes) {
      if (!ended || takes.value.has(id)) continue;
      const marks = asset ? decodeMarks(await api.takeMarks(id)) : [];
      heard.set(id, { id, lengthSamples, sound, marks });
    }
    // What is owed of pages that turn out to be recorded upon begins the next take, as it will at the school.
    const isNowRecorded = opening === null && document.value !== null && !isRecorded.value && isRecordedIn(fresh);
    const owed = isNowRecorded ? (await owedOf(fresh.id)).flatMap(marksOf) : null;
    const isOlder = fresh.revision < answeredRevision;
    // Changes that are owed, or were made since the school answered, are not in what it says.
    const isOwed = owed === null && opening === null && (draft.isGathering || outbox.isOwed(fresh.id, isChanges));
    const isBehind = isOlder || isOwed;
    if (isOlder) setTimeout(() => void refresh());
    // An edit on its way was made from what was in force then, and must say so.
    const madeFrom = isEditing.value && document.value ? { edit: document.value.edit } : {};
    const { title } = document.value && outbox.isOwed(fresh.id, isName) ? document.value : fresh;
    document.value = { ...fresh, ...madeFrom, title };
    takes.value = new Map([...heard, ...takes.value]);
    if (!isBehind) {
      revision.value = fresh.revision;
      base.value = sceneOf(
        fresh.pages.map(({ page, pieces }) => pageStateFrom(page, decodeContents(fromBase64(pieces)))),
      );
    }
    // With takes or edits on the way, the server is behind.
    if (onTheWay.value.size > 0) return;
    if (!isBehind) between.value = [...decodeMarks(fromBase64(fresh.between)), ...(owed ?? [])];
    if (!isEditing.value) editions.put(fresh.edition, 'school');
  }

  /** Takes over what the server says of an edit. */
  function acceptEdit(state: EditState): void {
    if (document.value) document.value = { ...document.value, ...state };
    editions.put(state.edition, 'school');
  }

  /** Takes over the server's word of a take it has got, and what others changed while it was recorded. */
  async function acceptTake(fresh: LessonDocument, take: TakeId): Promise<void> {
    const before = between.value;
    onTheWay.value = new Map([...onTheWay.value].filter(([id]) => id !== take));
    await accept(fresh);
    if (!equal(before, between.value)) layDesk();
  }

  /**
   * Lays the lesson as it stands after its last take, and what was changed since, on the desk. What is being recorded stays there
   * undisturbed.
   */
  function layDesk(history: History = desk.history, shown?: PageId): void {
    if (recording.mark) return;
    const trail = timeline.value;
    const since = between.value;
    const laid = (): Scene => {
      const scene = applyChanges(trail!.end, since);
      return shown && pageStateOf(scene, shown) ? { ...scene, shown } : scene;
    };
    if (trail) desk.lay(laid, history);
  }

  /** Settles when the school has the lesson's changes and files, or they wait. */
  async function save(): Promise<void> {
    const id = document.value?.id;
    if (!id) return;
    await draft.close();
    await (await outbox.open()).settled(id, ({ head }) => head.kind === 'changes' || head.kind === 'file');
  }

  /** Makes a take that has just ended part of the lesson, before the server has it. */
  function addTake(take: Take, plan: TakePlan, sound: Blob | null): void {
    hearTake(take, sound);
    const planned = { id: take.id, lengthSamples: take.lengthSamples, plan };
    onTheWay.value = new Map(onTheWay.value).set(take.id, planned);
    const placed = placeTake(programme.value, planned);
    if (placed) editions.put({ ...edition.value, programme: placed }, 'recorded');
    if (plan.kind === 'carry-on') between.value = [];
  }

  /** Takes in a take that is no part of the trail, so that it can be heard. */
  function hearTake(take: Take, sound: Blob | null): void {
    if (sound) sounds.keep(take.id, sound);
    takes.value = new Map(takes.value).set(take.id, take);
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
    isRecorded,
    isWithServer,
    plannedTakes,
    waitsFor,
    open,
    accept,
    acceptTake,
    layDesk,
    save,
    addTake,
    takeIn,
    hearTake,
    revision,
    acceptEdit,
    refresh,
  };
});
