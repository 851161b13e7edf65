import { useEventListener } from '@vueuse/core';
import type { Step } from './steps';

/** So far one touch goes back. */
export const BACK_SECONDS = 10;

export interface WatchActions {
  toggle(): void;
  skip(seconds: number): void;
  step(by: Step, direction: 1 | -1): void;
  toStart(): void;
  toEnd(): void;
}

/**
 * Space plays and pauses; arrows go back and on, with Shift stroke by stroke; Page Up and Page Down by chapters; Home and End to the
 * ends: wherever the focus is, unless it needs the key itself.
 */
export function useWatchKeys({ toggle, skip, step, toStart, toEnd }: WatchActions): void {
  const keys: Record<string, () => void> = {
    ' ': toggle,
    ArrowLeft: () => skip(-BACK_SECONDS),
    ArrowRight: () => skip(BACK_SECONDS),
    'Shift ArrowLeft': () => step('stroke', -1),
    'Shift ArrowRight': () => step('stroke', 1),
    PageUp: () => step('chapter', -1),
    PageDown: () => step('chapter', 1),
    Home: toStart,
    End: toEnd,
  };

  useEventListener(window, 'keydown', (event) => {
    const target = event.target as HTMLElement;
    const act = keys[event.shiftKey && event.key.startsWith('Arrow') ? `Shift ${event.key}` : event.key];
    if (!act || event.ctrlKey || event.metaKey || event.altKey) return;
    if (target.closest('select, textarea, input:not([type="range"], [type="checkbox"])')) return;
    // A button is pressed by Space, and the bar goes along by arrows.
    if (target.closest(event.key === ' ' ? 'button, a, input[type="checkbox"]' : 'input')) return;
    event.preventDefault();
    act();
  });
}
