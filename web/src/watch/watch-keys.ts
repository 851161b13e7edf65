import { useEventListener } from '@vueuse/core';

/** So far one touch goes back. */
export const BACK_SECONDS = 10;

interface Watched {
  toggle(): void;
  skip(seconds: number): void;
  toStart(): void;
  toEnd(): void;
}

/** Space plays and pauses, arrows go back and on, Home and End to the ends: wherever the focus is, unless it needs the key itself. */
export function useWatchKeys({ toggle, skip, toStart, toEnd }: Watched): void {
  const keys: Record<string, () => void> = {
    ' ': toggle,
    ArrowLeft: () => skip(-BACK_SECONDS),
    ArrowRight: () => skip(BACK_SECONDS),
    Home: toStart,
    End: toEnd,
  };

  useEventListener(window, 'keydown', (event) => {
    const target = event.target as HTMLElement;
    const act = keys[event.key];
    if (!act || event.ctrlKey || event.metaKey || event.altKey || target.closest('select, input[type="search"]'))
      return;
    // A button is pressed by Space, and the bar goes along by arrows.
    if (target.closest(event.key === ' ' ? 'button, a' : 'input')) return;
    event.preventDefault();
    act();
  });
}
