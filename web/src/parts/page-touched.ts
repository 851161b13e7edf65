import { onBeforeUnmount, onMounted } from 'vue';

/** Calls back when somebody touches the page. A pen makes no click there, so what is open would stay open. */
export function onPageTouched(callback: () => void): void {
  const listen = (event: PointerEvent) => {
    if ((event.target as Element).closest('.page')) callback();
  };
  onMounted(() => document.addEventListener('pointerdown', listen));
  onBeforeUnmount(() => document.removeEventListener('pointerdown', listen));
}
