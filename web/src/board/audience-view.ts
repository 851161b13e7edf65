import type { Placement } from '@kite-trail/core/paint/surface';
import type { Moment } from '@kite-trail/core/trail/timeline';
import { watch } from 'vue';
import { useFiles } from '../lesson/files';
import { useAudience } from './audience';
import { AudienceScreen } from './audience-screen';
import { useView } from './view';

/** The page in the audience's window, as it is on the board. */
export function useAudienceView(
  shown: () => { moment: Moment; writable: boolean },
  paintSeen: (surface: CanvasRenderingContext2D, at: Placement) => void,
) {
  const audience = useAudience();
  const files = useFiles();
  const view = useView();
  let screen: AudienceScreen | null = null;

  function show(): void {
    const { moment, writable } = shown();
    screen?.show(moment, view.lookSeen(moment.scene.look, writable));
    showWet();
  }

  const showWet = (): void => screen?.showWet(paintSeen);
  const repaint = (): void => screen?.repaint();

  watch(
    () => audience.window,
    (opened) => {
      screen = opened && new AudienceScreen(opened, () => files.images);
      show();
    },
    // Whoever comes back to the board finds the window as it was.
    { immediate: true },
  );
  watch([() => audience.resizes, () => view.look, () => view.isRecorded], show);

  return { show, showWet, repaint };
}
