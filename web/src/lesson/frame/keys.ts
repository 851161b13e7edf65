import { ref, shallowRef } from 'vue';
import { ofLesson } from '../lesson-scope';

/** What a key does on the lesson's screen; the sheet behind `?` is made of the same. */
export interface Key {
  /** As the sheet says it: `R`, `Ctrl Shift Z`, `Page down`, `1–9`. */
  keys: string;
  does: string;
  /** Whether it can be done now; always where this is not stated. */
  when?: () => boolean;
  run: (event: KeyboardEvent) => void;
}

/** A dialog that fades away is open no longer. */
const OPEN_DIALOG = '[aria-modal="true"]:not([class*="leave-active"])';

/** All keys of the lesson, and whether their sheet is open. Where two are the same, the first that can be done is. */
export const useKeys = ofLesson(() => {
  const all = shallowRef<readonly Key[]>([]);
  const isSheetOpen = ref(false);

  function press(event: KeyboardEvent): void {
    // An open menu, for one, has taken its arrows.
    if (event.defaultPrevented) return;
    // Keys belong to an open dialog, also where its focused button has just gone, and the focus with it.
    if (document.querySelector(OPEN_DIALOG)) return;
    const name = keyOf(event);
    const key = name && all.value.find(({ keys, when }) => keys === name && (when?.() ?? true));
    if (!key) return;
    // What is not done is left to others: whatever is open is closed by Escape, too.
    event.preventDefault();
    key.run(event);
  }

  return { all, isSheetOpen, press };
});

const NAMES: Record<string, string> = {
  ' ': 'Space',
  '-': '−',
  Escape: 'Esc',
  Backspace: 'Delete',
  PageDown: 'Page down',
  PageUp: 'Page up',
  ArrowLeft: 'Arrows',
  ArrowRight: 'Arrows',
  ArrowUp: 'Arrows',
  ArrowDown: 'Arrows',
};

/** The name of what is pressed, unless somebody is typing or the key belongs to what has the focus. */
export function keyOf({ key, target, ctrlKey, metaKey, altKey, shiftKey }: KeyboardEvent): string | null {
  const within = target as HTMLElement;
  if (within.closest('input, textarea, select, [role="dialog"]')) return null;
  if ((key === ' ' || key === 'Enter') && within.closest('button, a')) return null;
  if (within.getAttribute('role') === 'slider' && /^(Page|Arrow|Home$|End$)/.test(key)) return null;
  if (altKey) return null;
  const name = /^[1-9]$/.test(key) ? '1–9' : (NAMES[key] ?? (key.length === 1 ? key.toUpperCase() : key));
  const isCommand = ctrlKey || metaKey;
  // With shift, letters are the same keys, and signs are others; only of these two it says more.
  const isShifted = shiftKey && (isCommand || name === 'Delete');
  return [isCommand && 'Ctrl', isShifted && 'Shift', name].filter(Boolean).join(' ');
}
