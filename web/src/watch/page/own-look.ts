import { shownPage } from '@kite-trail/core/lesson/scene';
import { moved, viewOf, type Box, type PlacePx, type View } from '@kite-trail/core/paint/view';
import type { Moment } from '@kite-trail/core/trail/timeline';
import { onBeforeUnmount, shallowRef, watch, type Ref } from 'vue';
import { FingerInput } from '../../device/finger-input';

/** So far the wheel turns until the page is e times as large. */
const WHEEL_PX_PER_E = 320;

/**
 * The viewer looks closer, or elsewhere, until they come back to what the teacher showed.
 * @param changed hears of every look
 */
export function useOwnLook(frame: Ref<HTMLElement | undefined>, moment: () => Moment | null, changed: () => void) {
  /** What the viewer looks at; `null` while they see what the teacher showed. */
  const own = shallowRef<View | null>(null);
  let fingers: FingerInput | null = null;

  watch(frame, (element) => {
    fingers?.dispose();
    if (!element) return;
    fingers = new FingerInput(element, {
      // One finger plays and pauses until the page is larger; two always move it.
      isElsewhere: () => false,
      use: () => (own.value ? 'move' : 'write'),
      began: () => {},
      moved: ({ factor, from, to }) => look({ factor, from: inFrame(from), to: inFrame(to) }),
    });
  });
  onBeforeUnmount(() => fingers?.dispose());

  const box = (): Box => ({ widthPx: frame.value!.clientWidth, heightPx: frame.value!.clientHeight });

  function look(change: { factor: number; from: PlacePx; to: PlacePx }): void {
    const { scene } = moment()!;
    const { page } = shownPage(scene);
    own.value = moved(page, box(), own.value ?? viewOf(page, box(), scene.look), change);
    changed();
  }

  function comeBack(): void {
    own.value = null;
    changed();
  }

  const inFrame = ({ xPx, yPx }: PlacePx): PlacePx => {
    const { left, top } = frame.value!.getBoundingClientRect();
    return { xPx: xPx - left, yPx: yPx - top };
  };

  function wheeled(event: WheelEvent): void {
    const at = inFrame({ xPx: event.clientX, yPx: event.clientY });
    look({ factor: Math.exp(-event.deltaY / WHEEL_PX_PER_E), from: at, to: at });
  }

  return { own, box, comeBack, wheeled };
}
