import type { Key } from '../lesson/frame/keys';
import { useLesson } from '../lesson/lesson';
import { useRecordingNow } from '../lesson/recording-now';
import { useSteps } from '../lesson/frame/steps';
import { useListening } from './listening';

/** Keys that play the trail. */
export function useTrailKeys(): Key[] {
  const lesson = useLesson();
  const recording = useRecordingNow();
  const listening = useListening();
  const steps = useSteps();
  // Whoever prepares writes on, and hears nothing.
  const canPlay = () => lesson.lengthSamples > 0 && recording.isIdle && steps.now.value !== 'prepare';

  return [{ keys: 'Space', does: 'Play or pause', when: canPlay, run: () => listening.toggle() }];
}
