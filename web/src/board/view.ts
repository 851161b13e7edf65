import type { Page } from '@kite-trail/core/lesson/page';
import type { RectPt } from '@kite-trail/core/lesson/rect';
import {
  lookOf,
  moved,
  scaleOf,
  viewWithin,
  viewOf,
  wholeOf,
  type Box,
  type PlacePx,
  type View,
} from '@kite-trail/core/paint/view';
import { useKeptSetting } from '../device/kept-setting';
import { computed, ref, shallowRef } from 'vue';
import { ofLesson } from '../lesson/lesson-scope';

const STEP = 1.25;

/** Which part of the page shown the teacher looks at. Recordings show it so, unless the teacher keeps it to themselves. */
export const useView = ofLesson(() => {
  const box = ref<Box>({ widthPx: 1, heightPx: 1 });
  const page = shallowRef<Page | null>(null);
  /** `null` while all of the page is seen, however large it becomes. */
  const part = shallowRef<View | null>(null);

  const view = computed((): View => {
    if (!page.value) return { zoom: 1, xPt: 0, yPt: 0 };
    return viewWithin(page.value, box.value, part.value ?? wholeOf(page.value));
  });
  const zoom = computed(() => view.value.zoom);
  /** How much of the box's width the page's width takes: growing downwards does not change it. */
  const widthShare = computed(() => {
    if (!page.value) return 1;
    return (scaleOf(page.value, box.value, view.value) * page.value.widthPt) / box.value.widthPx;
  });
  /** Whether the page's width can fill the box: a page that is wide enough does so already. */
  const canFitWidth = computed(() => {
    const { widthPx, heightPx } = box.value;
    return page.value !== null && page.value.heightPt / page.value.widthPt > (heightPx / widthPx) * 1.02;
  });
  /** The part of the page that is seen; `null` for all of it. */
  const look = computed(() => page.value && lookOf(page.value, box.value, view.value));
  /** Whether viewers see the page as the teacher looks at it. */
  const recorded = useKeptSetting<'yes' | 'no'>('kite-trail-looks', 'yes');
  const isRecorded = computed({
    get: () => recorded.value === 'yes',
    set: (is) => (recorded.value = is ? 'yes' : 'no'),
  });

  /**
   * What part of the page others see who are shown it: as the teacher looks at it, unless that is kept out of recordings.
   * @param replayed what is looked at in what is replayed
   */
  function lookSeen(replayed: RectPt | null, isWriting: boolean): RectPt | null {
    if (!isWriting && part.value === null) return replayed;
    return isRecorded.value ? look.value : null;
  }

  /** Looks at another page, or at the same one in another size. */
  function lookAt(shown: Page): void {
    if (page.value?.id !== shown.id) part.value = null;
    page.value = shown;
  }

  function move(change: { factor: number; from: PlacePx; to: PlacePx }): void {
    const next = moved(page.value!, box.value, view.value, change);
    part.value = next.zoom > 1 ? next : null;
  }

  /** Enlarges about a place of the box, or about its middle. */
  function zoomBy(factor: number, at = middle()): void {
    move({ factor, from: at, to: at });
  }

  function panBy(xPx: number, yPx: number): void {
    const from = middle();
    move({ factor: 1, from, to: { xPx: from.xPx + xPx, yPx: from.yPx + yPx } });
  }

  /** Goes on showing a page as large as before it became taller, with what was written last a little above the middle. */
  function keepScale(taller: Page, pxPerPt: number, lowestPt: number): void {
    const zoom = pxPerPt / scaleOf(taller, box.value, wholeOf(taller));
    const { xPt } = view.value;
    part.value = zoom > 1 ? viewWithin(taller, box.value, { zoom, xPt, yPt: lowestPt }) : null;
  }

  /** Looks at a part of the page, as large as the box lets it be. */
  function showPart(rect: RectPt): void {
    const next = viewOf(page.value!, box.value, rect);
    part.value = next.zoom > 1 ? next : null;
  }

  /** As large as the page's width allows, about where it is looked at. */
  function fitWidth(): void {
    const { leftPt, widthPt } = page.value!;
    const heightPt = (widthPt * box.value.heightPx) / box.value.widthPx;
    const top = Math.max(page.value!.topPt, view.value.yPt - heightPt / 2);
    showPart({ left: leftPt, right: leftPt + widthPt, top, bottom: top + heightPt });
  }

  /** The place of the page in the middle of what is seen. */
  const middlePt = computed(() => ({ xPt: view.value.xPt, yPt: view.value.yPt }));
  const middle = (): PlacePx => ({ xPx: box.value.widthPx / 2, yPx: box.value.heightPx / 2 });
  const nearer = () => zoomBy(STEP);
  const farther = () => zoomBy(1 / STEP);
  const whole = () => (part.value = null);

  return {
    box,
    part,
    view,
    zoom,
    widthShare,
    canFitWidth,
    look,
    isRecorded,
    lookSeen,
    lookAt,
    move,
    zoomBy,
    panBy,
    keepScale,
    showPart,
    fitWidth,
    nearer,
    farther,
    whole,
    middle: middlePt,
  };
});
