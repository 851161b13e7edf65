import { LIVE_ENDS, liveAddress } from '@kite-trail/core/contract/live';
import { decodeSightChange } from '@kite-trail/core/formats/sight-coding';
import type { Piece } from '@kite-trail/core/lesson/piece';
import { FollowedSight } from '@kite-trail/core/live/followed-sight';
import type { Moment } from '@kite-trail/core/trail/timeline';
import { onScopeDispose, ref, shallowRef } from 'vue';
import { ImageStore } from '../pictures/image-store';
import { ask, Refused } from '../watch/opening/ask';
import { FollowerLine } from './follower-line';

/** How it stands with a page that is followed. */
export type Following = 'begins' | 'shown' | 'waits' | 'lost' | 'over' | 'full';

/** A school that cannot be asked is asked again so much later. */
const AGAIN_MS = 2000;

/** The page that is shown live under a code. */
export function useFollowed(code: string) {
  const state = ref<Following>('begins');
  const problem = ref('');
  const followed = new FollowedSight();
  const moment = shallowRef<Moment | null>(null);
  const wet = shallowRef<readonly Piece[]>([]);
  const arrivals = ref(0);
  let line: FollowerLine | null = null;
  let images: ImageStore | null = null;
  let isFading = false;
  let isLeft = false;
  let beginning: ReturnType<typeof setTimeout> | undefined;

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
      if (error instanceof Refused) problem.value = error.message;
      else {
        state.value = 'lost';
        beginning = setTimeout(() => void begin(), AGAIN_MS);
      }
    }
  }

  function shown(bytes: Uint8Array): void {
    try {
      followed.take(decodeSightChange(bytes), performance.now());
    } catch (error) {
      // All is asked for once more; what cannot be read then is told.
      if (followed.isKnown) line?.forget();
      else problem.value = (error as Error).message;
      followed.forget();
    }
    look();
    fade();
  }

  function look(): void {
    wet.value = followed.wet;
    moment.value = followed.momentAt(performance.now());
  }

  /** Looks anew with every frame while something fades. */
  function fade(): void {
    if (isFading) return;
    const frame = () => {
      if (!isLeft) look();
      isFading = !isLeft && followed.isFadingAt(performance.now());
      if (isFading) requestAnimationFrame(frame);
    };
    isFading = followed.isFadingAt(performance.now());
    if (isFading) requestAnimationFrame(frame);
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
    clearTimeout(beginning);
    removeEventListener('online', isBack);
    line?.stop();
    images?.dispose();
  });

  void begin();
  return {
    state,
    problem,
    moment,
    wet,
    arrivals,
    images: () => images!,
  };
}

async function tokenOf(code: string): Promise<string> {
  return liveAddress.parse(await (await ask(`/api/live/${encodeURIComponent(code)}`)).json()).token;
}
