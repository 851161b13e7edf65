import type { PageId } from '@kite-trail/core/lesson/ids';
import { useDesk } from '../lesson/desk';
import type { Key } from '../lesson/frame/keys';
import { ofLesson } from '../lesson/lesson-scope';
import { useRecordingNow } from '../lesson/recording-now';
import { useSurface } from '../lesson/surface';
import { useAudition } from '../trail/audition';
import { useListening } from '../trail/listening';
import { usePages } from './pages';

/** Turns pages: on the desk, or, where the trail is listened to, to the moment at which it comes to a page. */
export const useTurning = ofLesson(() => {
  const desk = useDesk();
  const surface = useSurface();
  const recording = useRecordingNow();
  const audition = useAudition();
  const listening = useListening();

  function turnTo(page: PageId): void {
    if (surface.canTurn) return desk.turnTo(page);
    if (!recording.isIdle) return;
    const turned = audition.timeline?.trail.marks.find((mark) => mark.kind === 'turn' && mark.page === page);
    if (turned) listening.seek(turned.atSamples);
  }

  /** Turns to a page by its place; beyond the last is the last one. */
  function turnToPlace(place: number): void {
    const { pages } = surface.moment!.scene;
    turnTo(pages[Math.min(pages.length - 1, Math.max(0, place))].page.id);
  }

  function turnBy(steps: 1 | -1): void {
    const { pages, shown } = surface.moment!.scene;
    turnToPlace(pages.findIndex(({ page }) => page.id === shown) + steps);
  }

  return { turnTo, turnToPlace, turnBy };
});

/** Keys that turn and add pages. */
export function usePageKeys(): Key[] {
  const turning = useTurning();
  const pages = usePages();
  const surface = useSurface();

  return [
    { keys: 'Page down', does: 'Next page', run: () => turning.turnBy(1) },
    { keys: 'Page up', does: 'Page before', run: () => turning.turnBy(-1) },
    { keys: 'Home', does: 'First page', run: () => turning.turnToPlace(0) },
    { keys: 'End', does: 'Last page', run: () => turning.turnToPlace(Infinity) },
    { keys: '1–9', does: 'To a page by its number', run: ({ key }) => turning.turnToPlace(Number(key) - 1) },
    { keys: 'N', does: 'Add a page', when: () => surface.isWritable, run: () => pages.addBlank() },
  ];
}
