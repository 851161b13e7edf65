import { useDesk } from '../desk';
import { useEditing } from '../edition/editing';
import { useKeys, type Key } from './keys';
import { useRecordingNow } from '../recording-now';
import { useSurface } from '../surface';

/** Keys of every step: what was done last is taken back, on the page or in the trail. */
export function useLessonKeys(): Key[] {
  const desk = useDesk();
  const editing = useEditing();
  const recording = useRecordingNow();
  const surface = useSurface();
  const keys = useKeys();
  const isEditing = () => !surface.isWritable && recording.isIdle;

  return [
    { keys: 'Ctrl Z', does: 'Undo', when: () => surface.isWritable, run: () => desk.undo() },
    { keys: 'Ctrl Z', does: 'Undo', when: isEditing, run: () => editing.undo() },
    { keys: 'Ctrl Shift Z', does: 'Redo', when: () => surface.isWritable, run: () => desk.redo() },
    { keys: 'Ctrl Shift Z', does: 'Redo', when: isEditing, run: () => editing.redo() },
    { keys: '?', does: 'This sheet', run: () => (keys.isSheetOpen = true) },
  ];
}
