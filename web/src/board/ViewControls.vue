<script setup lang="ts">
import { IconArrowsHorizontal, IconEye, IconEyeOff, IconMaximize, IconZoomIn, IconZoomOut } from '@tabler/icons-vue';
import { MOST_ZOOM } from '@kite-trail/core/paint/view';
import { computed } from 'vue';
import { useView } from './view';

/** How large the page is seen. */
const view = useView();
const percent = computed(() => `${Math.round(view.widthShare * 100)} %`);
</script>

<template>
  <div class="view" role="group" aria-label="Size on the screen">
    <button
      v-if="view.zoom > 1"
      class="step"
      :title="view.isRecorded ? 'Viewers will see it as large as you do' : 'Viewers will see all of the page'"
      aria-label="Record how I look at the page"
      :aria-pressed="view.isRecorded"
      @click="view.isRecorded = !view.isRecorded"
    >
      <icon-eye v-if="view.isRecorded" :size="22" stroke="1.75" />
      <icon-eye-off v-else :size="22" stroke="1.75" />
    </button>
    <button
      v-if="view.zoom > 1"
      class="step"
      title="All of the page"
      aria-label="All of the page"
      @click="view.whole()"
    >
      <icon-maximize :size="22" stroke="1.75" />
    </button>
    <button
      v-if="view.canFitWidth"
      class="step"
      title="All of its width"
      aria-label="All of its width"
      @click="view.fitWidth()"
    >
      <icon-arrows-horizontal :size="22" stroke="1.75" />
    </button>
    <button class="step" title="Smaller" aria-label="Smaller" :disabled="view.zoom <= 1" @click="view.farther()">
      <icon-zoom-out :size="22" stroke="1.75" />
    </button>
    <output class="percent" aria-label="Size" title="100 %: as wide as there is room">{{ percent }}</output>
    <button class="step" title="Larger" aria-label="Larger" :disabled="view.zoom >= MOST_ZOOM" @click="view.nearer()">
      <icon-zoom-in :size="22" stroke="1.75" />
    </button>
  </div>
</template>

<style scoped>
.view {
  display: flex;
}

.step {
  display: grid;
  place-items: center;
  min-width: 44px;
  min-height: 44px;
  white-space: nowrap;
  color: var(--ink-soft);
  cursor: pointer;
  background: transparent;
  border: 0;
  border-radius: var(--radius);
}

.step:hover:not(:disabled) {
  background: var(--sail-deep);
}

.step:disabled {
  opacity: 0.35;
}

.percent {
  align-self: center;
  min-width: 52px;
  color: var(--ink-soft);
  text-align: center;
  font-variant-numeric: tabular-nums;
}

/* Two fingers do it there. */
@media (max-width: 640px) {
  .view {
    display: none;
  }
}
</style>
