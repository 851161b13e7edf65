import { shallowRef } from 'vue';
import type { PlacePx } from '@kite-trail/core/paint/view';
import { ofLesson } from '../../lesson/lesson-scope';

/** Pens and tools, called to where the hand is: on a large panel their place is far away. */
export const useToolsHere = ofLesson(() => {
  /** Where on the screen; `null` while nobody has called them. */
  const at = shallowRef<PlacePx | null>(null);
  /** Where a mouse or a pen was last, for who calls by key. */
  let last: PlacePx = { xPx: 0, yPx: 0 };

  const callTo = (place: PlacePx) => (at.value = place);
  const follow = (place: PlacePx) => (last = place);
  const toggle = () => (at.value = at.value ? null : last);
  const putBack = () => (at.value = null);

  return { at, callTo, follow, toggle, putBack };
});
