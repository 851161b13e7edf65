import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { cut, quickened, type Stretch } from '@kite-trail/core/trail/edit';
import { programmeLength, type Programme } from '@kite-trail/core/trail/programme';
import { closing, lengthOf, pausesIn, silentWritingIn } from '@kite-trail/core/trail/quiet';
import { computed, ref, shallowRef } from 'vue';
import { useEditing } from '../../lesson/edition/editing';
import { useLesson } from '../../lesson/lesson';
import { useVoices } from '../../lesson/voices';
import { ofLesson } from '../../lesson/lesson-scope';

const NONE: ReadonlySet<number> = new Set();

/** What is to be done: pauses are closed, or silent writing is quickened. */
type QuietSort = 'pauses' | 'writing';

/** A stretch in the list, and how much time it would save. */
export interface ListedStretch extends Stretch {
  savesSamples: number;
  isExcluded: boolean;
}

/** Stretches in which nobody speaks, found and listed; all that are not left out are edited in one step. */
export const useQuietStretches = ofLesson(() => {
  const lesson = useLesson();
  const editing = useEditing();
  const voices = useVoices();
  const sort = ref<QuietSort>('pauses');
  /** Shorter ones are left as they are. */
  const leastSeconds = ref(1.5);
  /** So much of a pause stays. */
  const staysSeconds = ref(0.6);
  const pace = ref(4);
  /** Where those begin that are left out, and of what: in another programme the same times mean something else. */
  const leavingOut = shallowRef<{ of: Programme; sort: QuietSort; starts: ReadonlySet<number> } | null>(null);
  const excluded = computed<ReadonlySet<number>>(() => {
    const { of, sort: ofSort, starts } = leavingOut.value ?? {};
    return starts && of === lesson.programme && ofSort === sort.value ? starts : NONE;
  });

  const found = computed<Stretch[]>(() => {
    const { timeline, programme } = lesson;
    if (!timeline || voices.isListening) return [];
    const find = sort.value === 'pauses' ? pausesIn : silentWritingIn;
    return find(programme, timeline.trail, voices.speechOf, secondsToSamples(leastSeconds.value));
  });

  const listed = computed<ListedStretch[]>(() =>
    found.value
      .map((one) => ({ ...one, savesSamples: savedIn(one), isExcluded: excluded.value.has(one.fromSamples) }))
      .filter(({ savesSamples }) => savesSamples > 0),
  );
  const chosen = computed(() => listed.value.filter(({ isExcluded }) => !isExcluded));
  const savesSamples = computed(() => chosen.value.reduce((sum, one) => sum + one.savesSamples, 0));

  function savedIn(one: Stretch): number {
    const length = lengthOf(one);
    return length - (sort.value === 'pauses' ? secondsToSamples(staysSeconds.value) : Math.round(length / pace.value));
  }

  function edited(programme: Programme, one: Stretch): Programme {
    if (sort.value === 'writing') return quickened(programme, one, pace.value);
    return cut(programme, closing(one, secondsToSamples(staysSeconds.value)), 'keep');
  }

  function exclude({ fromSamples }: Stretch, isExcluded: boolean): void {
    const others = [...excluded.value].filter((one) => one !== fromSamples);
    const starts = new Set(isExcluded ? [...others, fromSamples] : others);
    leavingOut.value = { of: lesson.programme, sort: sort.value, starts };
  }

  /** Edits all that are not left out. @returns how much shorter the programme is */
  function apply(): number {
    const before = programmeLength(lesson.programme);
    // From the last to the first, so that the times of those before stay.
    const programme = chosen.value.reduceRight<Programme>(edited, lesson.programme);
    void editing.play(programme);
    return before - programmeLength(programme);
  }

  return { sort, leastSeconds, staysSeconds, pace, listed, chosen, savesSamples, exclude, apply };
});
