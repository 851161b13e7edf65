<script setup lang="ts">
import { IconArrowsHorizontal, IconEye, IconEyeOff, IconMaximize, IconZoomIn, IconZoomOut } from '@tabler/icons-vue';
import { MOST_ZOOM } from '@kite-trail/core/paint/view';
import { computed } from 'vue';
import ActionButton from '../controls/ActionButton.vue';
import { useView } from './view';

/** How large the page is seen. */
const view = useView();
const percent = computed(() => `${Math.round(view.widthShare * 100)} %`);
</script>

<template>
  <div class="view" role="group" aria-label="Size on the screen">
    <action-button
      v-if="view.zoom > 1"
      name="Record how I look at the page"
      :title="view.isRecorded ? 'Viewers will see it as large as you do' : 'Viewers will see all of the page'"
      :icon="view.isRecorded ? IconEye : IconEyeOff"
      :pressed="view.isRecorded"
      @click="view.isRecorded = !view.isRecorded"
    />
    <action-button v-if="view.zoom > 1" name="All of the page" :icon="IconMaximize" @click="view.whole()" />
    <action-button
      v-if="view.canFitWidth"
      name="All of its width"
      :icon="IconArrowsHorizontal"
      @click="view.fitWidth()"
    />
    <action-button name="Smaller" :icon="IconZoomOut" :disabled="view.zoom <= 1" @click="view.farther()" />
    <output class="percent" aria-label="Size" title="100 %: as wide as there is room">{{ percent }}</output>
    <action-button name="Larger" :icon="IconZoomIn" :disabled="view.zoom >= MOST_ZOOM" @click="view.nearer()" />
  </div>
</template>

<style scoped>
.view {
  display: flex;
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
