import { pieceAt, piecesInLoop } from '@kite-trail/core/lesson/touch';
import { shownPage } from '@kite-trail/core/lesson/scene';
import type { Moment } from '@kite-trail/core/trail/timeline';
import type { PlacePt } from '../../capture/pen-input';
import type { useInkChoice } from './ink-choice';
import type { BoardSight, BoardTool } from '../../board/board-tool';

const REACH_PX = 9;
const LEAST_LOOP_PX = 8;

/**
 * Chooses recorded ink: a stroke that is touched, or all that a loop is drawn around.
 * @param found hears when a touched stroke is written
 */
export function inkPickingTool(
  sight: BoardSight,
  choice: ReturnType<typeof useInkChoice>,
  moment: () => Moment,
  found: (atSamples: number) => void,
): BoardTool {
  let line: PlacePt[] | null = null;
  let isBeside = false;

  const strokes = () => shownPage(moment().scene).pieces.filter(({ kind }) => kind === 'stroke');

  function down(event: PointerEvent): boolean {
    line = [sight.toPage(event.clientX, event.clientY)];
    isBeside = event.shiftKey;
    return true;
  }

  function move(event: PointerEvent): void {
    line?.push(sight.toPage(event.clientX, event.clientY));
    sight.changed();
  }

  function up(event: PointerEvent): void {
    const drawn = line;
    line = null;
    sight.changed();
    if (!drawn || event.type === 'pointercancel') return;
    const [xs, ys] = [drawn.map(({ xPt }) => xPt), drawn.map(({ yPt }) => yPt)];
    const extent = Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys));
    if (extent * sight.pxPerPt() >= LEAST_LOOP_PX) {
      const inside = piecesInLoop(
        strokes(),
        drawn.flatMap(({ xPt, yPt }) => [xPt, yPt]),
      );
      return choice.chooseAll(inside.map(({ id }) => id));
    }
    const touched = pieceAt(strokes(), drawn[0], REACH_PX / sight.pxPerPt());
    if (!touched) return choice.clear();
    const at = choice.choose(touched.id, isBeside);
    if (at !== null && !isBeside) found(at);
  }

  return { down, move, up, line: () => line };
}
