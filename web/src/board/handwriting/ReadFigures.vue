<script setup lang="ts">
import type { ExactFigure } from '@kite-trail/core/ink/straighten';
import { NCheckbox } from 'naive-ui';
import { useReading, type Figure } from './handwriting';
import { placesOf } from '@kite-trail/core/lesson/touch';
import InkSign from './InkSign.vue';

/** The figures that were found, as drawn and exact. Any may stay as it was drawn. */
const NAMES: Record<ExactFigure, string> = {
  line: 'Line',
  arrow: 'Arrow',
  rectangle: 'Rectangle',
  square: 'Square',
  triangle: 'Triangle',
  polygon: 'Polygon',
  ellipse: 'Ellipse',
  circle: 'Circle',
};
const reading = useReading();
const ink = (stroke: Figure['stroke']) => [placesOf(stroke).flatMap(({ xPt, yPt }) => [xPt, yPt])];
</script>

<template>
  <div class="figures" role="group" aria-label="Figures found">
    <n-checkbox
      v-for="{ stroke, exact, figure } in reading.figures"
      :key="stroke.id"
      :checked="!reading.excluded.has(stroke.id)"
      @update:checked="(taken: boolean) => reading.leave(stroke.id, !taken)"
    >
      <span class="figure">
        <ink-sign :strokes="ink(stroke)" />
        <span aria-hidden="true">→</span>
        <ink-sign :strokes="ink(exact)" class="exact" />
        {{ NAMES[figure] }}
      </span>
    </n-checkbox>
  </div>
</template>

<style scoped>
.figures {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
  gap: 4px;
  max-height: 40vh;
  overflow-y: auto;
}

.figure {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 46px;
}

.exact {
  color: var(--tail);
}
</style>
