import { onBeforeUnmount, watch, type Ref } from 'vue';

/** Calls back with the size of an element's content, in CSS pixels, whenever it has changed. */
export function useResizeObserver(
  element: Ref<HTMLElement | undefined>,
  onResize: (widthPx: number, heightPx: number) => void,
): void {
  const observer = new ResizeObserver(([{ contentRect }]) => onResize(contentRect.width, contentRect.height));
  watch(element, (now, before) => {
    if (before) observer.unobserve(before);
    if (now) observer.observe(now);
  });
  onBeforeUnmount(() => observer.disconnect());
}
