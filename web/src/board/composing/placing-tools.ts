import type { PlacePt } from '../../capture/pen-input';
import { useComposing } from './composing';
import type { BoardSight, BoardTool } from '../board-tool';

/** Draws a shape from one corner to the other. */
export function shapeTool(sight: BoardSight): BoardTool {
  const composing = useComposing();
  let from: PlacePt | null = null;
  let to: PlacePt | null = null;

  return {
    down(event) {
      from = to = sight.toPage(event.clientX, event.clientY);
      return true;
    },
    move(event) {
      if (!from) return;
      to = sight.toPage(event.clientX, event.clientY);
      sight.changed();
    },
    up(event) {
      const drawn = from && to && { from, to };
      from = to = null;
      if (drawn && event.type === 'pointerup') composing.placeShape(drawn.from, drawn.to);
      sight.changed();
    },
    pieces: () => (from && to && from !== to ? [composing.shapeBetween(from, to)] : []),
  };
}

/** Begins a text where the page is touched. */
export function textTool(sight: BoardSight): BoardTool {
  const composing = useComposing();
  return {
    down() {
      // Whoever is typing ends that first.
      composing.endTyping();
      return true;
    },
    move() {},
    up(event) {
      if (event.type === 'pointerup') composing.typeAt(sight.toPage(event.clientX, event.clientY));
    },
  };
}
