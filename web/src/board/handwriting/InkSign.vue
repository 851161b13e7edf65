<script setup lang="ts">
import type { Polyline } from '@kite-trail/core/reading/point-cloud';
import { computed } from 'vue';

/** A few strokes as they were written, small. */
const props = defineProps<{
  strokes: readonly Polyline[];
  /** It is not enlarged further than something of this size would be: a dot stays a dot. */
  leastSize?: number;
}>();

const MARGIN_SHARE = 0.12;
const box = computed(() => {
  const all = props.strokes.flat();
  const [xs, ys] = [all.filter((_, i) => i % 2 === 0), all.filter((_, i) => i % 2 === 1)];
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const size = Math.max(Math.max(...xs) - left, Math.max(...ys) - top, props.leastSize ?? 1);
  const margin = size * MARGIN_SHARE;
  const across = (Math.max(...xs) + left - size) / 2;
  const down = (Math.max(...ys) + top - size) / 2;
  return { text: `${across - margin} ${down - margin} ${size + 2 * margin} ${size + 2 * margin}`, size };
});
</script>

<template>
  <svg class="ink" :viewBox="box.text" aria-hidden="true">
    <polyline
      v-for="(stroke, i) in strokes"
      :key="i"
      :points="stroke.join(' ')"
      :stroke-width="box.size / 11"
      fill="none"
      stroke="currentColor"
      stroke-linecap="round"
      stroke-linejoin="round"
    />
  </svg>
</template>

<style scoped>
.ink {
  width: 34px;
  height: 34px;
}
</style>
