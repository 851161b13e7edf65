import { onBeforeUnmount, ref } from 'vue';
import { onBeforeRouteLeave } from 'vue-router';
import { useStretch } from '../trail/stretch';
import { useDoneOver } from './done-over';
import { useRecording } from './recording';

/** A recording is not left without being asked: not for another step, and not for another page. */
export function useLeavingAsks() {
  const recording = useRecording();
  const done = useDoneOver();
  const stretch = useStretch();
  const isLeaving = ref(false);

  onBeforeRouteLeave(async () => {
    if (!recording.isOn) return recording.cancel();
    if (!window.confirm('A recording is going on. Stop it, keep it, and leave?')) return false;
    isLeaving.value = true;
    await recording.stop();
  });

  onBeforeUnmount(() => {
    // Whoever goes on uses the new take.
    done.over = null;
    stretch.clear();
  });

  return { isLeaving };
}
