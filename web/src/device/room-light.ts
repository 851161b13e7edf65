import { createGlobalState, usePreferredDark } from '@vueuse/core';
import { computed, shallowRef, watchEffect } from 'vue';
import { useKeptSetting } from './kept-setting';

/** A colour of `look/palette.css`, such as `ink-soft`. */
export type PaletteColor = (name: string) => string;

/** How bright the frame around the page is. Paper keeps its colour. */
export const useRoomLight = createGlobalState(() => {
  const choice = useKeptSetting<'system' | 'bright' | 'dark'>('kite-trail-room-light', 'system');
  const prefersDark = usePreferredDark();
  const isDark = computed(() => (choice.value === 'system' ? prefersDark.value : choice.value === 'dark'));
  /** The palette's colours, for what is no style: canvases, and controls that mix them. Another function in another room. */
  const color = shallowRef<PaletteColor>(() => '');

  watchEffect(() => {
    // The document's own element has it, so that whatever is laid above the screen has it, too.
    document.documentElement.dataset.room = isDark.value ? 'dark' : 'bright';
    const style = getComputedStyle(document.documentElement);
    const known = new Map<string, string>();
    color.value = (name) => {
      if (!known.has(name)) known.set(name, style.getPropertyValue(`--${name}`).trim());
      return known.get(name)!;
    };
  });

  return { choice, isDark, color };
});
