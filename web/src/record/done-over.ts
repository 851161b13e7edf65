import type { TakeId } from '@kite-trail/core/lesson/ids';
import type { StretchPlan } from '@kite-trail/core/trail/plan';
import type { Programme } from '@kite-trail/core/trail/programme';
import equal from 'fast-deep-equal';
import { computed, shallowRef } from 'vue';
import { useLesson } from '../lesson/lesson';
import { ofLesson } from '../lesson/lesson-scope';

/** A stretch that was done over, with the programme before and after: both can be heard, and one chosen. */
interface DoneOver {
  plan: StretchPlan;
  take: TakeId;
  before: Programme;
  after: Programme;
}

/** The stretch that was done over last, while there is still something to choose. */
export const useDoneOver = ofLesson(() => {
  const lesson = useLesson();
  const last = shallowRef<DoneOver | null>(null);
  const over = computed({
    // In a trail that has changed otherwise there is nothing to choose any more.
    get: () => (last.value && equal(lesson.programme, last.value.after) ? last.value : null),
    set: (to: DoneOver | null) => (last.value = to),
  });

  return { over };
});
