import { LIVE_ENDS, type LivePage } from '@kite-trail/core/contract/live';
import { filesOn, type FileUse } from '@kite-trail/core/lesson/files';
import type { PageState } from '@kite-trail/core/lesson/scene';
import type { Sight } from '@kite-trail/core/live/sight';
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue';
import { useSessionStorage } from '@vueuse/core';
import { useFiles } from '../lesson/files';
import { useLesson } from '../lesson/lesson';
import { ofLesson } from '../lesson/lesson-scope';
import { useNotices } from '../lesson/notices';
import { api } from '../server/api';
import { Shower } from './shower';
import { ShowerLine } from './shower-line';

const ENDED: Record<number, string> = {
  [LIVE_ENDS.over]: 'Your page is not shown live any more.',
  [LIVE_ENDS.elsewhere]: 'Another window of yours shows its page live now. This one shows nothing any more.',
};

const TOO_MUCH =
  'There is too much on this page to be shown live. Go on upon another page: it is followed again from there.';

/** The page of the open lesson, shown live to those who have the code. Nothing of the lesson is changed by it. */
export const useLive = ofLesson(() => {
  const lesson = useLesson();
  const files = useFiles();
  const problem = useNotices().place('problem');
  const news = useNotices().place('news');
  const page = shallowRef<LivePage | null>(null);
  const followers = ref(0);
  /** The line is there just now. */
  const isReached = ref(false);
  const isBeginning = ref(false);
  const isPanelOpen = ref(false);
  /** The lesson that this window showed when it was loaded anew. */
  const shownHere = useSessionStorage<string>('kite-trail-live', '');
  const address = computed(() => page.value && new URL(`/live/${page.value.code}`, location.href).href);
  const isOn = computed(() => page.value !== null);
  let line: ShowerLine | null = null;
  let shower: Shower | null = null;
  /** What those who follow may fetch. */
  let told = new Set<string>();
  /** The page whose files were looked through last. */
  let lookedThrough: PageState | null = null;
  let isLeft = false;

  /** Shows the page from now on. */
  async function begin(): Promise<void> {
    if (isBeginning.value || isOn.value) return;
    const { id } = lesson.document!;
    isBeginning.value = true;
    problem.value = null;
    try {
      const begun = await api.beginLive(id);
      if (isLeft) return;
      open(begun);
      shownHere.value = id;
    } catch (error) {
      problem.value = (error as Error).message;
    } finally {
      isBeginning.value = false;
    }
  }

  /** One touch shows the page, and its code; another one shows the code again. */
  async function present(): Promise<void> {
    await begin();
    isPanelOpen.value = isOn.value;
  }

  function open(begun: LivePage): void {
    const opened = new ShowerLine(begun, {
      ready: (isNew) => {
        isReached.value = true;
        shower?.ready(isNew);
      },
      told: ({ followers: count, wantsCheckpoint }) => {
        followers.value = count;
        if (wantsCheckpoint) shower?.checkpoint();
      },
      lost: () => (isReached.value = false),
      ended: (why) => {
        close();
        shownHere.value = '';
        news.value = ENDED[why] ?? null;
      },
    });
    line = opened;
    shower = new Shower(opened);
    shower.onTooMuch = () => (problem.value = TOO_MUCH);
    told = new Set();
    lookedThrough = null;
    page.value = begun;
  }

  function close(): void {
    shower?.stop();
    line?.stop();
    shower = line = page.value = null;
    isReached.value = isPanelOpen.value = false;
    followers.value = 0;
  }

  /** Ends it for good: whoever follows is told, and the code leads nowhere. */
  async function end(): Promise<void> {
    close();
    shownHere.value = '';
    await api.endLive().catch(() => (problem.value = 'The page is shown no more, but its code stays yours for now.'));
  }

  /** Something else is to be seen. @param seen works out what, when it is told */
  function show(seen: () => Sight): void {
    shower?.show(() => {
      const sight = seen();
      if (sight.state !== lookedThrough) void letBeSeen(sight.state);
      return sight;
    });
  }

  /** Those who follow may fetch what lies on the page, once the school has it. */
  async function letBeSeen(state: PageState): Promise<void> {
    lookedThrough = state;
    const unknown = filesOn(state).filter((use) => !told.has(keyOf(use)));
    if (unknown.length === 0) return;
    const { token, key } = page.value!;
    for (const use of unknown) told.add(keyOf(use));
    let missing: readonly FileUse[] = unknown;
    try {
      await files.sent();
      missing = await api.letBeSeen(token, key, unknown);
    } catch {
      // The school cannot be asked just now.
    }
    // What it has not got yet is told again when the page has changed.
    for (const use of missing) told.delete(keyOf(use));
  }

  // A window that is loaded anew goes on with what it did.
  watch(
    () => lesson.document?.id,
    (id) => {
      if (id && id === shownHere.value) void begin();
    },
    { immediate: true },
  );
  // Browsers may keep a page that was left, and its socket with it; when somebody goes back to it, it is loaded anew.
  const left = () => line?.stop();
  const isBack = () => line?.retry();
  globalThis.addEventListener?.('pagehide', left);
  globalThis.addEventListener?.('online', isBack);
  onScopeDispose(() => {
    isLeft = true;
    globalThis.removeEventListener?.('pagehide', left);
    globalThis.removeEventListener?.('online', isBack);
    close();
  });

  return { page, address, isOn, isBeginning, isReached, isPanelOpen, followers, present, end, show };
});

const keyOf = ({ asset, pageIndex }: FileUse): string => `${asset} ${pageIndex}`;
