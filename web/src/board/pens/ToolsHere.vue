<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { computed } from 'vue';
import { onPageTouched } from '../page-touched';
import PenRoll from './PenRoll.vue';
import { useToolsHere } from './tools-here';

/** The pens and tools beside the hand, until the page is touched. */
const tools = useToolsHere();
const SIZE_PX = { width: 172, height: 300 };
const BESIDE_PX = 24;

/** Beside the hand, and within the window. */
const place = computed(() => {
  const { xPx, yPx } = tools.at!;
  const within = (px: number, sizePx: number, windowPx: number) => Math.max(8, Math.min(windowPx - sizePx - 8, px));
  return {
    left: `${within(xPx + BESIDE_PX, SIZE_PX.width, window.innerWidth)}px`,
    top: `${within(yPx - SIZE_PX.height / 2, SIZE_PX.height, window.innerHeight)}px`,
    width: `${SIZE_PX.width}px`,
  };
});

onPageTouched(tools.putBack);
useEventListener(window, 'pointermove', ({ clientX, clientY }) => tools.follow({ xPx: clientX, yPx: clientY }), {
  passive: true,
});
</script>

<template>
  <section v-if="tools.at" class="here" aria-label="Tools at the hand" :style="place"><pen-roll /></section>
</template>

<style scoped>
.here {
  position: fixed;
  z-index: 6;
  padding: 12px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 14px;
  box-shadow: var(--shadow);
}
</style>
