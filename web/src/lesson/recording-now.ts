import type { Change } from '@kite-trail/core/lesson/mark';
import type { TakePlan } from '@kite-trail/core/trail/plan';
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue';
import { useMakings } from '../making/makings';
import { ofLesson } from './lesson-scope';

type RecordingState = 'idle' | 'counting' | 'run-up' | 'recording' | 'paused' | 'ending';

/** What the rest of the lesson has to know of a recording. Only `record/` changes it. */
export const useRecordingNow = ofLesson(() => {
  const state = ref<RecordingState>('idle');
  const plan = shallowRef<TakePlan>({ kind: 'carry-on' });
  /** Where changes on the desk go while a take is recorded; `null` while none is. */
  const mark = shallowRef<((change: Change, atMs: number) => void) | null>(null);
  /** How often something has come up that wants the teacher’s eyes: a recording pauses for it. */
  const distractions = ref(0);

  const isIdle = computed(() => state.value === 'idle');
  const isStarting = computed(() => state.value === 'counting' || state.value === 'run-up');
  const isOn = computed(() => state.value === 'recording' || state.value === 'paused');
  /** Whether pens write now, as far as the recording is concerned. */
  const takesInk = computed(() => isIdle.value || (isOn.value && plan.value.kind !== 're-speak'));

  // Whoever records has the machine for themselves.
  const makings = useMakings();
  watch(isIdle, (now) => (makings.isStoodBack = !now), { flush: 'sync' });
  onScopeDispose(() => (makings.isStoodBack = false));

  /** States when something lies open that the teacher has to look at. */
  function pauseWhile(isOpen: () => boolean): void {
    watch(isOpen, (now) => now && pause());
  }

  /** Something wants the teacher’s eyes, now. */
  const pause = (): void => void distractions.value++;

  return { state, plan, mark, distractions, isIdle, isStarting, isOn, takesInk, pauseWhile, pause };
});
