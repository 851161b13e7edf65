import { onBeforeUnmount, watch, type Ref } from 'vue';

/** Calls back whenever an element's size has changed. */
export function useResizeObserver(element: Ref<HTMLElement | undefined>, onResize: () => void): void {
  const observer = new ResizeObserver(onResize);
  watch(element, (now, before) => {
    if (before) observer.unobserve(before);
    if (now) observer.observe(now);
  });
  onBeforeUnmount(() => observer.disconnect());
}
