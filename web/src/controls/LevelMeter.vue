<script setup lang="ts">
import { computed } from 'vue';

/** How loud it is just now; red where it is about to be cut off. */
const props = defineProps<{ peakDb: number }>();

const QUIETEST_DB = -60;
const HOT_DB = -1;

const level = computed(() => Math.max(0, Math.min(1, 1 - props.peakDb / QUIETEST_DB)));
</script>

<template>
  <span class="meter" role="img" aria-label="Sound level">
    <span class="level" :class="{ hot: peakDb > HOT_DB }" :style="{ transform: `scaleX(${level})` }"></span>
    <slot />
  </span>
</template>

<style scoped>
.meter {
  position: relative;
  display: block;
  height: 12px;
  overflow: hidden;
  background: var(--sail-deep);
  border-radius: 8px;
}

.level {
  display: block;
  height: 100%;
  background: var(--tail);
  transform-origin: left;
}

.level.hot {
  background: var(--kite);
}
</style>
