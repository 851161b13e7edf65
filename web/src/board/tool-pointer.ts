import type { Ref } from 'vue';
import type { BoardTool } from './board-tool';

/**
 * Lets the tool in hand follow a pointer that is down on the page.
 * @param dragFrom hands a press over to the handles of what it has taken hold of
 */
export function toolPointer(
  page: Ref<HTMLElement | undefined>,
  toolNow: () => BoardTool | undefined,
  dragFrom: (event: MouseEvent | TouchEvent) => void,
) {
  let active: { tool: BoardTool; pointerId: number } | null = null;
  let isDragAwaited = false;

  function down(event: PointerEvent): void {
    const tool = toolNow();
    if (!tool || active || event.button !== 0) return;
    if (!tool.down(event)) return;
    active = { tool, pointerId: event.pointerId };
    page.value!.setPointerCapture(event.pointerId);
  }

  function move(event: PointerEvent): void {
    if (event.pointerId !== active?.pointerId) return;
    const coalesced = event.getCoalescedEvents?.() ?? [];
    for (const one of coalesced.length > 0 ? coalesced : [event]) active.tool.move(one);
  }

  function up(event: PointerEvent): void {
    if (event.pointerId !== active?.pointerId) return;
    const { tool } = active;
    active = null;
    tool.up(event);
  }

  /** Something else has begun, such as a second finger. */
  function cancel(): void {
    active?.tool.up(new PointerEvent('pointercancel'));
    active = null;
  }

  /**
   * The press that took hold goes on as a drag. The handles listen to mice and fingers, which are told of a press right
   * after pointers are; by then the handles are there.
   */
  function pressed(event: MouseEvent | TouchEvent): void {
    if (isDragAwaited) dragFrom(event);
    isDragAwaited = false;
  }

  return { down, move, up, cancel, pressed, awaitDrag: () => void (isDragAwaited = true) };
}
