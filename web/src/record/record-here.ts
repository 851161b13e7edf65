import { computed } from 'vue';
import { useLesson } from '../lesson/lesson';
import { ofLesson } from '../lesson/lesson-scope';
import { useAudition } from '../trail/audition';
import { useListening } from '../trail/listening';
import { useStretch } from '../trail/stretch';
import { useRecording } from './recording';

/** What would be recorded if recording began now: a stretch anew, a take put in at the playhead, or one that carries on. */
export const useRecordHere = ofLesson(() => {
  const lesson = useLesson();
  const listening = useListening();
  const audition = useAudition();
  const stretch = useStretch();
  const recording = useRecording();

  /** Between takes one may look back along the trail; what is recorded then is put in there. */
  const isListeningBack = computed(() => lesson.lengthSamples > 0 && (audition.other !== null || !listening.isAtEnd));
  const insertAt = computed(() => (isListeningBack.value && !audition.other ? listening.samples : null));
  const what = computed(() => {
    if (stretch.ends) return { label: 'Retake', name: 'Retake the stretch' };
    if (insertAt.value !== null) return { label: 'Record here', name: 'Record here, at the playhead' };
    return { label: 'Record', name: 'Record this lesson' };
  });

  function record(): void {
    if (stretch.ends) void recording.start(stretch.plan('retake'));
    else if (insertAt.value !== null) void recording.start({ kind: 'insert', atSamples: insertAt.value });
    else void recording.start();
  }

  return { isListeningBack, what, record };
});
