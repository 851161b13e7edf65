import type { Stroke } from '@kite-trail/core/lesson/piece';
import { still, type Moment } from '@kite-trail/core/trail/timeline';
import { computed, onScopeDispose, shallowRef } from 'vue';
import type { BoardTool, BoardSight } from '../board/board-tool';
import { useDesk } from './desk';
import { useOtherWindows } from './other-windows';
import { ofLesson } from './lesson-scope';
import { useRecordingNow } from './recording-now';

/** What a step wants to be seen on the board. */
interface Sight {
  /** In the place of what lies on the desk. */
  moment: Moment | null;
  /** The teacher is at the desk, and writes as far as may be. */
  isWriting: boolean;
  /** Strokes that are lit up. */
  lit?: readonly Stroke[];
  /** What a hand does on the page, where it does not write. */
  tool?: (on: BoardSight) => BoardTool;
}

/** What the board shows, and what can be done on it. The step that is open decides. */
export const useSurface = ofLesson(() => {
  const desk = useDesk();
  const others = useOtherWindows();
  const recording = useRecordingNow();
  const sight = shallowRef<() => Sight>(AT_THE_DESK);

  const now = computed(() => sight.value());
  const moment = computed<Moment | null>(() => now.value.moment ?? (desk.scene && still(desk.scene)));
  const lit = computed(() => now.value.lit);
  const tool = computed(() => now.value.tool ?? null);
  const isWriting = computed(() => now.value.isWriting);
  /** The board can be written on: not while old ink plays, nor while another window records. */
  const isWritable = computed(() => isWriting.value && recording.takesInk && !others.isRecording);
  /** Pages can be turned: while seconds are counted, too. */
  const canTurn = computed(
    () => isWritable.value || (recording.state === 'counting' && recording.plan.kind === 'carry-on'),
  );

  /** Shows what a step wants to be seen, until the step is left. */
  function show(wanted: () => Sight): void {
    sight.value = wanted;
    onScopeDispose(() => {
      if (sight.value === wanted) sight.value = AT_THE_DESK;
    });
  }

  return { moment, lit, tool, isWriting, isWritable, canTurn, show };
});

const AT_THE_DESK = (): Sight => ({ moment: null, isWriting: true });
