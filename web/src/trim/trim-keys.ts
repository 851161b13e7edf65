import type { Key } from '../lesson/frame/keys';
import { useLesson } from '../lesson/lesson';
import { useSteps } from '../lesson/frame/steps';
import { useListening } from '../trail/listening';
import { useInkChoice } from './ink/ink-choice';
import { useTrimming } from './trimming';

/** Keys that edit the trail, and go along it. */
export function useTrimKeys(): Key[] {
  const lesson = useLesson();
  const listening = useListening();
  const trimming = useTrimming();
  const ink = useInkChoice();
  const steps = useSteps();

  const isTrimming = () => steps.now.value === 'trim' && trimming.isOn;
  const canEdit = () => isTrimming() && lesson.isWithServer;
  const toPage = (direction: 1 | -1) => listening.seek(trimming.step('page', listening.samples, direction));

  /** Chosen ink goes before a stretch of time does. */
  function cut(how: 'keep' | 'drop') {
    if (ink.chosen.length > 0) return ink.remove();
    const goesOnAt = trimming.cutOut(how);
    if (goesOnAt !== null) listening.seek(goesOnAt);
  }

  return [
    { keys: 'Page down', does: 'Next page', when: isTrimming, run: () => toPage(1) },
    { keys: 'Page up', does: 'Page before', when: isTrimming, run: () => toPage(-1) },
    {
      keys: '[',
      does: 'Trimming: the stretch begins here',
      when: isTrimming,
      run: () => trimming.setStretchEnd('from'),
    },
    { keys: ']', does: 'Trimming: the stretch ends here', when: isTrimming, run: () => trimming.setStretchEnd('to') },
    {
      keys: 'Delete',
      does: 'Trimming: cut the stretch and keep its ink, or take chosen ink out',
      when: canEdit,
      run: () => cut('keep'),
    },
    { keys: 'Shift Delete', does: 'Trimming: cut the stretch with its ink', when: canEdit, run: () => cut('drop') },
    {
      keys: 'S',
      does: 'Trimming: split at the playhead',
      when: canEdit,
      run: () => listening.seek(trimming.divide(listening.samples)),
    },
    {
      keys: '.',
      does: 'Trimming: step on, by what is chosen beside the clock',
      when: isTrimming,
      run: () => trimming.stepAlong(1),
    },
    { keys: ',', does: 'Trimming: step back', when: isTrimming, run: () => trimming.stepAlong(-1) },
    { keys: 'B', does: 'Trimming: step by something else', when: isTrimming, run: () => trimming.stepByNext() },
  ];
}
