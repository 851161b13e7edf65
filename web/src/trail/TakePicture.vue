<script setup lang="ts">
import type { PageState } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import { fitPage } from '@kite-trail/core/paint/surface';
import { onMounted, ref, watch } from 'vue';
import { useFiles } from '../lesson/files';

/** The page as a take left it. */
const props = defineProps<{ state: PageState }>();

const WIDTH_PX = 176;
const HEIGHT_PX = 110;

const files = useFiles();
const canvas = ref<HTMLCanvasElement>();

onMounted(paint);
watch([() => files.arrivals, () => props.state], paint);

function paint() {
  if (!canvas.value) return;
  const { state } = props;
  const scale = Math.min(WIDTH_PX / state.page.widthPt, HEIGHT_PX / state.page.heightPt);
  const widthPx = Math.round(state.page.widthPt * scale);
  const heightPx = Math.round(state.page.heightPt * scale);
  [canvas.value.width, canvas.value.height] = [widthPx, heightPx];
  paintPage(canvas.value.getContext('2d')!, state, fitPage(state.page, { widthPx, heightPx }), files.images);
}
</script>

<template>
  <canvas ref="canvas" class="picture" aria-hidden="true"></canvas>
</template>

<style scoped>
.picture {
  display: block;
  width: 88px;
  height: 55px;
  object-fit: contain;
  background: var(--sail-deep);
  border-radius: 6px;
}
</style>
