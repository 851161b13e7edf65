<script setup lang="ts">
import type { TakeId } from '@kite-trail/core/lesson/ids';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import { fitPage } from '@kite-trail/core/paint/surface';
import { onMounted, ref, watch } from 'vue';
import { useAudition } from '../stores/audition';
import { useFiles } from '../stores/files';

/** The page as a take left it. */
const props = defineProps<{ take: TakeId }>();

const WIDTH_PX = 176;
const HEIGHT_PX = 110;

const audition = useAudition();
const files = useFiles();
const canvas = ref<HTMLCanvasElement>();

onMounted(paint);
watch(() => files.arrivals, paint);

function paint() {
  const end = audition.alone(props.take)?.timeline.end;
  if (!canvas.value || !end) return;
  const state = shownPage(end);
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
