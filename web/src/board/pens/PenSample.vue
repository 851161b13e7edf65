<script setup lang="ts">
import { InkPoints } from '@kite-trail/core/ink/points';
import { newStroke, type Pen } from '@kite-trail/core/lesson/piece';
import { paintPieces } from '@kite-trail/core/paint/painter';
import { onMounted, ref, watch } from 'vue';
import { useRoomLight } from '../../device/room-light';

/** A short stroke of a pen, as it would look on the page. */
const props = defineProps<{ pen: Pen }>();

const room = useRoomLight();
const SIZE = { widthPx: 40, heightPx: 26 };
const DENSITY = 2;
/** Broader ink is shown no broader than this, so that the roll stays even. */
const BROADEST_SAMPLE_PT = 11;

const canvas = ref<HTMLCanvasElement>();

/** A wave, pressed harder in its middle. */
const POINTS = InkPoints.from(
  Array.from({ length: 29 }, (_, i) => ({
    xPt: 6 + i,
    yPt: SIZE.heightPx / 2 - 6 * Math.sin((i / 28) * 2 * Math.PI),
    pressure: 0.25 + 0.5 * Math.sin((i / 28) * Math.PI),
    sinceMs: i * 8,
  })),
);

function paint() {
  const surface = canvas.value?.getContext('2d');
  if (!surface) return;
  surface.setTransform(1, 0, 0, 1, 0, 0);
  surface.clearRect(0, 0, SIZE.widthPx * DENSITY, SIZE.heightPx * DENSITY);
  const pen = { ...props.pen, widthPt: Math.min(BROADEST_SAMPLE_PT, props.pen.widthPt) };
  const stroke = newStroke({ id: 'sample' as never, z: 0, pen, points: POINTS });
  paintPieces(surface, [stroke], room.color.value('sail'), { leftPx: 0, topPx: 0, pxPerPt: DENSITY });
}

onMounted(paint);
watch([() => props.pen, room.color], paint, { deep: true });
</script>

<template>
  <canvas ref="canvas" class="sample" :width="SIZE.widthPx * DENSITY" :height="SIZE.heightPx * DENSITY"></canvas>
</template>

<style scoped>
.sample {
  width: 40px;
  height: 26px;
}
</style>
