import { onBeforeUnmount, onMounted } from 'vue';

/** Calls back when somebody touches the page. A pen makes no click there, so what is open would stay open. */
export function onPageTouched(callback: () => void): void {
  const listen = (event: PointerEvent) => {
    if ((event.target as Element).closest('.page')) callback();
  };
  // In the capture phase: fingers that move the page are heard by nobody else.
  onMounted(() => document.addEventListener('pointerdown', listen, true));
  onBeforeUnmount(() => document.removeEventListener('pointerdown', listen, true));
}

/** Whoever touches the page no longer types beside it: what was typed is kept, and keys are shortcuts again. */
export function leaveFieldsWhenPageTouched(): void {
  onPageTouched(() => {
    const focused = document.activeElement;
    if (focused instanceof HTMLElement && focused.matches('input, textarea') && !focused.closest('.page'))
      focused.blur();
  });
}
