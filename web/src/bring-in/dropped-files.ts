import { onBeforeUnmount } from 'vue';

/**
 * Hands over files that are dropped anywhere in the window while a component is there. Where nobody takes them, a browser opens
 * them in the place of the page. Whoever knows better what to do with them prevents that first.
 */
export function useDroppedFiles(take: (files: readonly File[]) => void): void {
  const hasFiles = (event: DragEvent) => event.dataTransfer?.types.includes('Files') ?? false;
  const allow = (event: DragEvent) => hasFiles(event) && event.preventDefault();
  const drop = (event: DragEvent) => {
    if (!hasFiles(event) || event.defaultPrevented) return;
    event.preventDefault();
    take([...event.dataTransfer!.files]);
  };
  window.addEventListener('dragover', allow);
  window.addEventListener('drop', drop);
  onBeforeUnmount(() => {
    window.removeEventListener('dragover', allow);
    window.removeEventListener('drop', drop);
  });
}
