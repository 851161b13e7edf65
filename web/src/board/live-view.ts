import type { Piece } from '@kite-trail/core/lesson/piece';
import { shownPage } from '@kite-trail/core/lesson/scene';
import type { SeenPassing, Sight } from '@kite-trail/core/live/sight';
import type { Moment } from '@kite-trail/core/trail/timeline';
import { watch } from 'vue';
import { useLive } from '../live/live';
import { useView } from './view';

/** What is not settled on the page, and is for all to see. */
interface Unsettled {
  wet: readonly Piece[];
  passing: readonly SeenPassing[];
}

/** The page on the screens of those who follow it live, as it is on the board. */
export function useLiveView(shown: () => { moment: Moment; writable: boolean }, unsettled: () => Unsettled) {
  const live = useLive();
  const view = useView();

  function show(): void {
    if (live.isOn) live.show(sight);
  }

  function sight(): Sight {
    const { moment, writable } = shown();
    const { wet, passing } = unsettled();
    return {
      state: shownPage(moment.scene),
      look: view.lookSeen(moment.scene.look, writable),
      growing: moment.growing,
      wet,
      passing: [...moment.passing.map((one) => ({ ...one, isHeld: false })), ...passing],
    };
  }

  watch([() => live.isOn, () => view.look, () => view.isRecorded], show);
  return { show };
}
