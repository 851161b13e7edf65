import type { LessonId } from '@kite-trail/core/lesson/ids';
import { computed, onScopeDispose, ref } from 'vue';
import { useOutbox } from '../app/outbox';
import { WINDOW_ID } from '../server/call';
import { listenToLesson } from '../server/lesson-news';
import { ofLesson } from './lesson-scope';
import { useRecordingNow } from './recording-now';

/** What other windows and devices do with the lesson that is open here. */
export const useOtherWindows = ofLesson(() => {
  const recording = useRecordingNow();
  const outbox = useOutbox();
  /** The window that records this lesson, as far as is known. */
  const holder = ref<string | null>(null);
  /** The server has said which window that is, or that there is none. */
  const isHolderKnown = ref(false);
  /** How often the server came back after it could not be heard. */
  const reconnections = ref(0);
  /** Another window or device records this lesson: here it can only be looked at. */
  const isRecording = computed(() => holder.value !== null && holder.value !== WINDOW_ID);
  let stop = () => {};

  /** @param changed hears that the lesson is, or may be, no longer as it was */
  function listen(id: LessonId, changed: () => void): void {
    stop = listenToLesson(id, {
      // A window that records listens even out of sight.
      isAlways: () => !recording.isIdle,
      onBack: () => {
        reconnections.value++;
        changed();
      },
      onChange: changed,
      onHolder: (window) => {
        holder.value = window;
        isHolderKnown.value = true;
        // What a window that is gone has left is sent from here.
        void outbox.open().then((opened) => opened.inherit());
      },
    });
  }
  onScopeDispose(() => stop());

  return { isHolderKnown, isRecording, reconnections, listen };
});
