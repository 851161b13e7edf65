import { createGlobalState, usePreferredDark } from '@vueuse/core';
import { computed, watchEffect } from 'vue';
import { useKeptSetting } from './kept-setting';

/** How bright the frame around the page is. Paper keeps its colour. */
export const useRoomLight = createGlobalState(() => {
  const choice = useKeptSetting<'system' | 'bright' | 'dark'>('kite-trail-room-light', 'system');
  const prefersDark = usePreferredDark();
  const isDark = computed(() => (choice.value === 'system' ? prefersDark.value : choice.value === 'dark'));
  /** What ink in the frame is seen on. */
  const ground = computed(() => (isDark.value ? '#171c2a' : '#faf6ec'));
  // The palette is chosen by the document's own element, so that it is there for whatever is laid above the screen, too.
  watchEffect(() => (document.documentElement.dataset.room = isDark.value ? 'dark' : 'bright'));
  return { choice, isDark, ground };
});
