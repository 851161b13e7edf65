import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import type { Moment } from '@kite-trail/core/trail/timeline';
import { onScopeDispose, ref, shallowRef } from 'vue';
import { ofLesson } from '../lesson/lesson-scope';
import { useRecordingNow } from '../lesson/recording-now';
import type { Run } from './run';

/** The ink that is seen to be written meanwhile: in the run-up, and while a new voice is spoken over it. */
export const useOldInk = ofLesson(() => {
  const now = useRecordingNow();
  /** What is shown in the place of the desk. */
  const moment = shallowRef<Moment | null>(null);
  /** It waits for the voice. */
  const waits = ref(false);
  let frame = 0;

  /** Shows it frame by frame, for as long as there is some. */
  function show(run: Run): void {
    cancelAnimationFrame(frame);
    if (now.state === 'recording' && !run.waits) moment.value = null;
    const next = () => {
      const shown = momentOf(run, performance.now());
      if (!shown) return;
      moment.value = shown;
      frame = requestAnimationFrame(next);
    };
    next();
  }

  function momentOf({ recorder, fromSamples, beginsSeconds, timeline, waits: ink }: Run, nowMs: number): Moment | null {
    if (now.state === 'run-up') {
      const since = Math.round((recorder.source.heardSecondsAt(nowMs) - beginsSeconds) * CLOCK_HZ);
      return timeline!.at(fromSamples + Math.min(0, since));
    }
    return ink && now.isOn ? timeline!.at(fromSamples + ink.inkAt(recorder.source.clock.samplesAt(nowMs))) : null;
  }

  /** Lets the ink wait, or go on. @returns whether there is some */
  function hold({ waits: ink, recorder }: Run): boolean {
    if (!ink || !now.isOn) return false;
    const at = recorder.source.clock.samplesAt(performance.now());
    if (ink.isHolding) ink.release(at);
    else ink.hold(at);
    waits.value = ink.isHolding;
    return true;
  }

  function hide(): void {
    cancelAnimationFrame(frame);
    moment.value = null;
    waits.value = false;
  }
  onScopeDispose(hide);

  return { moment, waits, show, hold, hide };
});
