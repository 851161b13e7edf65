import { InkPoints, type InkSample } from '@kite-trail/core/ink/points';
import type { PassingChange } from '@kite-trail/core/lesson/mark';
import { useDesk } from '../lesson/desk';
import { usePens } from './pens/pens';
import type { BoardSight, BoardTool } from './board-tool';

/** Points with a dot, a spotlight, an arrow or a magnifier while the page is touched. @param show shows it from now on */
export function pointingTool(
  sight: BoardSight,
  show: (change: PassingChange, beganMs: number) => void,
  pointed: (change: PassingChange | null, beganMs: number) => void,
): BoardTool {
  const desk = useDesk();
  const pens = usePens();
  let samples: InkSample[] = [];
  let beganMs = 0;

  const change = (): PassingChange => ({
    kind: 'point',
    page: desk.scene!.shown,
    pointing: { ...pens.pointer, points: InkPoints.from(samples) },
  });

  function add(event: PointerEvent): void {
    const sinceMs = event.timeStamp - beganMs;
    samples.push({ ...sight.toPage(event.clientX, event.clientY), pressure: 0.5, sinceMs });
  }

  return {
    down(event) {
      samples = [];
      beganMs = event.timeStamp;
      add(event);
      pointed(change(), beganMs);
      return true;
    },
    move(event) {
      if (samples.length === 0) return;
      add(event);
      pointed(change(), beganMs);
    },
    up(event) {
      if (samples.length === 0) return;
      // What is cancelled has no place of its own, and was not meant.
      const isMeant = event.type === 'pointerup';
      if (isMeant) add(event);
      const whole = change();
      samples = [];
      pointed(null, beganMs);
      if (!isMeant) return;
      desk.pass(whole, beganMs);
      show(whole, beganMs);
    },
  };
}
