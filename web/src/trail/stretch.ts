import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { pagePartAt } from '@kite-trail/core/trail/page-part';
import { planFor, type StretchPlan } from '@kite-trail/core/trail/plan';
import type { Programme } from '@kite-trail/core/trail/programme';
import { computed, shallowRef } from 'vue';
import { useLesson } from '../lesson/lesson';
import { ofLesson } from '../lesson/lesson-scope';

/** From where to where, in samples of the programme. */
export interface Ends {
  from: number;
  to: number;
}

const AROUND_SAMPLES = secondsToSamples(5);

/** The stretch of the trail that is to be done over. */
export const useStretch = ofLesson(() => {
  const lesson = useLesson();
  const chosen = shallowRef<{ of: Programme; ends: Ends } | null>(null);
  const ends = computed({
    // In another programme the same times mean something else.
    get: () => (chosen.value && chosen.value.of === lesson.programme ? chosen.value.ends : null),
    set: (to: Ends | null) => (chosen.value = to && { of: lesson.programme, ends: to }),
  });

  /** Begins with the seconds around a moment. */
  function choose(atSamples: number): void {
    const to = Math.min(lesson.lengthSamples, Math.max(atSamples, 0) + AROUND_SAMPLES);
    ends.value = { from: Math.max(0, to - 2 * AROUND_SAMPLES), to };
  }

  /** Takes what was recorded without a break on the page shown at a moment. */
  function choosePagePart(atSamples: number): void {
    const { timeline, base } = lesson;
    // At the very end it is the last page's part.
    const inside = Math.min(atSamples, lesson.lengthSamples - 1);
    if (timeline && base) ends.value = pagePartAt(timeline.trail, base.shown, inside);
  }

  function chooseAll(): void {
    ends.value = { from: 0, to: lesson.lengthSamples };
  }

  function clear(): void {
    ends.value = null;
  }

  function plan(kind: StretchPlan['kind']): StretchPlan {
    const { from, to } = ends.value!;
    return planFor(kind, lesson.programme, Math.round(from), Math.round(to));
  }

  return { ends, choose, choosePagePart, chooseAll, clear, plan };
});
