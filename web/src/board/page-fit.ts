import type { Page } from '@kite-trail/core/lesson/page';
import { shownPage } from '@kite-trail/core/lesson/scene';
import type { Placement } from '@kite-trail/core/paint/surface';
import type { PlacePx } from '@kite-trail/core/paint/view';
import type { Moment } from '@kite-trail/core/trail/timeline';
import { ref, type Ref } from 'vue';
import type { PlacePt } from '../capture/pen-input';
import type { Stage } from '../playback/stage';
import { useView } from './view';

/** So far the wheel turns until the page is e times as large. */
const WHEEL_PX_PER_E = 320;

interface Fitted {
  frame: Ref<HTMLElement | undefined>;
  settled: Ref<HTMLCanvasElement | undefined>;
  wet: Ref<HTMLCanvasElement | undefined>;
  stage: () => Stage | null;
  shown: () => { moment: Moment; writable: boolean };
  /** The layers are empty, and of another size. */
  resized: () => void;
}

/** Lays the page into its frame, and tells where on it things are. */
export function usePageFit({ frame, settled, wet, stage, shown, resized }: Fitted) {
  const view = useView();
  /** Where the page lies, in CSS pixels, for what lies above the canvases. */
  const placement = ref<Placement>({ leftPx: 0, topPx: 0, pxPerPt: 1 });

  function fit(): void {
    const on = stage();
    if (!on || !frame.value) return;
    const { moment, writable } = shown();
    view.box = { widthPx: frame.value.clientWidth, heightPx: frame.value.clientHeight };
    view.lookAt(shownPage(moment.scene).page);
    // Whoever only watches sees what was looked at, until they look elsewhere.
    const size = on.fit(moment, view.box, writable || view.part ? view.view : undefined);
    for (const canvas of [settled.value!, wet.value!]) {
      canvas.style.width = `${size.widthPx}px`;
      canvas.style.height = `${size.heightPx}px`;
    }
    placement.value = size.placement;
    wet.value!.width = settled.value!.width;
    wet.value!.height = settled.value!.height;
    resized();
  }

  function inFrame({ xPx, yPx }: PlacePx): PlacePx {
    const box = frame.value!.getBoundingClientRect();
    return { xPx: xPx - box.left, yPx: yPx - box.top };
  }

  function toPage(clientX: number, clientY: number): PlacePt {
    const box = settled.value!.getBoundingClientRect();
    const { leftPx, topPx, pxPerPt } = placement.value;
    return { xPt: (clientX - box.left - leftPx) / pxPerPt, yPt: (clientY - box.top - topPx) / pxPerPt };
  }

  /** With Ctrl, which is also how browsers tell of two fingers on a touch pad, the wheel enlarges; else it moves the page. */
  function wheeled(event: WheelEvent): void {
    if (event.ctrlKey) {
      view.zoomBy(Math.exp(-event.deltaY / WHEEL_PX_PER_E), inFrame({ xPx: event.clientX, yPx: event.clientY }));
    } else {
      view.panBy(-event.deltaX, -event.deltaY);
    }
  }

  return { placement, fit, inFrame, toPage, wheeled };
}

/** Whether a page of the one's size lies where one of the other's lay. */
export const sameSides = (a: Page, b: Page): boolean =>
  a.leftPt === b.leftPt && a.topPt === b.topPt && a.widthPt === b.widthPt && a.heightPt === b.heightPt;
