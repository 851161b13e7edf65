<script setup lang="ts">
import type { Drawing } from '@kite-trail/core/drawing/drawing';
import { paintDrawing } from '@kite-trail/core/paint/drawing';
import { onMounted, ref, watch } from 'vue';

/** A formula or plot as it will look on the page. */
const props = defineProps<{ drawing: Drawing | null; color: string }>();

const SIZE = { widthPx: 440, heightPx: 250 };
const MOST_PX_PER_PT = 1.4;
const DENSITY = 2;
const canvas = ref<HTMLCanvasElement>();

function paint() {
  const surface = canvas.value?.getContext('2d');
  if (!surface) return;
  surface.setTransform(DENSITY, 0, 0, DENSITY, 0, 0);
  surface.clearRect(0, 0, SIZE.widthPx, SIZE.heightPx);
  if (!props.drawing) return;
  const { widthPt, heightPt } = props.drawing;
  const scale = Math.min(MOST_PX_PER_PT, (SIZE.widthPx - 16) / widthPt, (SIZE.heightPx - 16) / heightPt);
  surface.translate((SIZE.widthPx - widthPt * scale) / 2, (SIZE.heightPx - heightPt * scale) / 2);
  surface.scale(scale, scale);
  paintDrawing(surface, props.drawing, (color) => color ?? props.color);
}
onMounted(paint);
watch(() => [props.drawing, props.color], paint);
</script>

<template>
  <canvas
    ref="canvas"
    class="preview"
    role="img"
    aria-label="How it will look"
    :width="SIZE.widthPx * DENSITY"
    :height="SIZE.heightPx * DENSITY"
  ></canvas>
</template>

<style scoped>
.preview {
  width: 100%;
  max-width: 440px;
  aspect-ratio: 440 / 250;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: var(--radius);
}
</style>
