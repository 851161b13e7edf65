import { LIVE_ENDS, liveAddress } from '@kite-trail/core/contract/live';
import { decodeSightChange } from '@kite-trail/core/formats/sight-coding';
import { withChange, type Sight } from '@kite-trail/core/live/sight';
import { passingMs } from '@kite-trail/core/trail/passing';
import type { Moment } from '@kite-trail/core/trail/timeline';
import { computed, onScopeDispose, ref, shallowRef } from 'vue';
import { ImageStore } from '../pictures/image-store';
import { ask, Refused } from '../watch/opening/ask';
import { FollowerLine } from './follower-line';

/** How it stands with a page that is followed. */
export type Following = 'begins' | 'shown' | 'waits' | 'lost' | 'over' | 'full';

/** The page that is shown live under a code. */
export function useFollowed(code: string) {
  const state = ref<Following>('begins');
  const problem = ref('');
  const sight = shallowRef<Sight | null>(null);
  /** Changes with every frame while something is seen that fades. */
  const nowMs = ref(0);
  const arrivals = ref(0);
  /** When the last sight was told: what is seen for a while goes on from there. */
  let toldMs = 0;
  let line: FollowerLine | null = null;
  let images: ImageStore | null = null;
  let isFading = false;
  let isLeft = false;

  const moment = computed<Moment | null>(() => {
    if (!sight.value) return null;
    const { state: page, look, growing, passing } = sight.value;
    const agedMs = Math.max(0, nowMs.value - toldMs);
    return {
      scene: { pages: [page], shown: page.page.id, look },
      growing,
      passing: passing.map(({ change, sinceMs, isHeld }) => ({ change, sinceMs: isHeld ? sinceMs : sinceMs + agedMs })),
    };
  });

  async function begin(): Promise<void> {
    problem.value = '';
    try {
      const token = await tokenOf(code);
      if (isLeft) return;
      images = new ImageStore(async (asset, pageIndex) => {
        const file = `/api/followed/${token}/assets/${asset}`;
        return createImageBitmap(await (await ask(pageIndex === null ? file : `${file}/pages/${pageIndex}`)).blob());
      });
      images.onArrival = () => arrivals.value++;
      line = new FollowerLine(token, isThere, {
        told: ({ isShown }) => (state.value = isShown ? 'shown' : 'waits'),
        shown,
        lost: () => (state.value = 'lost'),
        ended: (why) => (state.value = why === LIVE_ENDS.full ? 'full' : 'over'),
      });
    } catch (error) {
      problem.value = (error as Error).message;
    }
  }

  function shown(bytes: Uint8Array): void {
    try {
      sight.value = withChange(sight.value, decodeSightChange(bytes));
      toldMs = nowMs.value = performance.now();
      fade();
    } catch (error) {
      // All is asked for once more; what cannot be read then is told.
      if (sight.value) line?.forget();
      else problem.value = (error as Error).message;
      sight.value = null;
    }
  }

  function fade(): void {
    if (isFading) return;
    const frame = () => {
      nowMs.value = performance.now();
      const agedMs = nowMs.value - toldMs;
      const passing = sight.value?.passing ?? [];
      isFading = !isLeft && passing.some((one) => !one.isHeld && one.sinceMs + agedMs < passingMs(one.change));
      if (isFading) requestAnimationFrame(frame);
    };
    isFading = true;
    requestAnimationFrame(frame);
  }

  const isThere = async (): Promise<boolean> => {
    try {
      await tokenOf(code);
      return true;
    } catch (error) {
      if (error instanceof Refused && error.code === 'no-such-page') return false;
      throw error;
    }
  };

  const isBack = () => line?.retry();
  addEventListener('online', isBack);
  onScopeDispose(() => {
    isLeft = true;
    removeEventListener('online', isBack);
    line?.stop();
    images?.dispose();
  });

  void begin();
  return {
    state,
    problem,
    sight,
    moment,
    arrivals,
    begin,
    images: () => images!,
  };
}

async function tokenOf(code: string): Promise<string> {
  return liveAddress.parse(await (await ask(`/api/live/${encodeURIComponent(code)}`)).json()).token;
}
