import type { Piece } from '@kite-trail/core/lesson/piece';
import type { PlacePt } from '../capture/pen-input';
import { useComposing } from './composing/composing';
import { useDesk } from '../lesson/desk';
import { usePens } from './pens/pens';
import { useSelection } from './selection/selection';
import type { BoardSight, BoardTool } from './board-tool';

/** So near to a thin line a hand takes hold of it. */
const REACH_PX = 9;
/** Two touches of one thing within this time open it. */
const TWICE_MS = 400;
/** A line shorter than this is a touch. */
const LEAST_LOOP_PX = 8;

/**
 * Takes hold of what is touched and goes on to move it, or of what a loop or a box is drawn around; cuts out a picture
 * along a line.
 * @param startDrag the press that took hold goes on as a drag
 */
export function handTool(sight: BoardSight, startDrag: () => void): BoardTool {
  const selection = useSelection();
  const composing = useComposing();
  const desk = useDesk();
  const pens = usePens();
  let line: PlacePt[] | null = null;
  let last: { piece: Piece['id']; atMs: number } | null = null;

  const placeOf = (event: PointerEvent) => sight.toPage(event.clientX, event.clientY);

  function down(event: PointerEvent): boolean {
    const isCutting = selection.doing === 'cutting' && selection.picture !== null;
    const at = placeOf(event);
    const found = isCutting ? null : selection.takeAt(at, REACH_PX / sight.pxPerPt(), event.shiftKey);
    if (!found) {
      line = [at];
      last = null;
      return true;
    }
    if (last?.piece === found.id && event.timeStamp - last.atMs < TWICE_MS) {
      last = null;
      composing.open(found);
      return false;
    }
    last = { piece: found.id, atMs: event.timeStamp };
    if (selection.isLocked || event.shiftKey) return false;
    if (found.handsOut) {
      // The copy and its way are one step.
      desk.beginGesture();
      selection.handOut();
    }
    startDrag();
    return false;
  }

  function move(event: PointerEvent): void {
    if (!line) return;
    const at = placeOf(event);
    if (selection.doing === 'cutting' || pens.holdsBy === 'loop') line.push(at);
    else line = boxLine(line[0], at);
    sight.changed();
  }

  function up(event: PointerEvent): void {
    if (!line) return;
    const drawn = line;
    line = null;
    sight.changed();
    if (event.type === 'pointercancel') return;
    if (selection.doing === 'cutting') return void selection.cutOut(drawn);
    if (extentPt(drawn) * sight.pxPerPt() < LEAST_LOOP_PX) return;
    if (pens.holdsBy === 'loop') selection.holdInLoop(drawn.flatMap(({ xPt, yPt }) => [xPt, yPt]));
    else {
      const [xs, ys] = [drawn.map(({ xPt }) => xPt), drawn.map(({ yPt }) => yPt)];
      const [left, right] = [Math.min(...xs), Math.max(...xs)];
      selection.holdWithin({ left, right, top: Math.min(...ys), bottom: Math.max(...ys) });
    }
  }

  return { down, move, up, line: () => line };
}

const boxLine = (from: PlacePt, to: PlacePt): PlacePt[] => [
  from,
  { xPt: to.xPt, yPt: from.yPt },
  to,
  { xPt: from.xPt, yPt: to.yPt },
  from,
];

function extentPt(line: readonly PlacePt[]): number {
  const [xs, ys] = [line.map(({ xPt }) => xPt), line.map(({ yPt }) => yPt)];
  return Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys));
}
