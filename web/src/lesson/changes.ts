import { isPassing, type Change, type Mark } from '@kite-trail/core/lesson/mark';
import { computed } from 'vue';
import { atOnce } from '../capture/take-recorder';
import { useDesk, type Commit } from './desk';
import { useDraft } from './draft';
import { useLesson } from './lesson';
import { ofLesson } from './lesson-scope';
import { useRecordingNow } from './recording-now';

/** Where what is done on the desk goes: the one place that decides it. */
export const useChanges = ofLesson(() => {
  const desk = useDesk();
  const lesson = useLesson();
  const draft = useDraft();
  const recording = useRecordingNow();

  /** Into the take that is recorded; into what begins the next one; or, before the first, into the pages. */
  const destination = computed<'take' | 'next-take' | 'pages'>(() => {
    if (recording.mark) return 'take';
    return lesson.isRecorded ? 'next-take' : 'pages';
  });

  desk.onCommit = ({ changes, atMs, history }: Commit) => {
    if (destination.value === 'take') {
      for (const change of changes) recording.mark!(change, atMs);
    } else {
      for (const change of changes) keep(change);
      // A gesture that ends is a step to undo, though nothing changes any more.
      if (changes.length === 0) draft.keepHistory(history);
    }
  };

  function keep(change: Change): void {
    // Where the teacher points and looks is of no account before anything is recorded.
    if (isPassing(change) || change.kind === 'look') return;
    const mark: Mark = { ...atOnce(change), atSamples: 0 };
    lesson.takeIn(mark, desk.scene!);
    if (change.kind === 'turn' && destination.value === 'pages') return;
    draft.add(lesson.revision, mark, desk.history);
  }

  return { destination };
});
