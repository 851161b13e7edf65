<script setup lang="ts">
import type { Piece } from '@kite-trail/core/lesson/piece';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { paintPieces } from '@kite-trail/core/paint/painter';
import type { Moment } from '@kite-trail/core/trail/timeline';
import { useResizeObserver } from '@vueuse/core';
import { onMounted, ref, watch } from 'vue';
import type { ImageStore } from '../pictures/image-store';
import { Stage } from '../playback/stage';
import { useOwnLook } from '../watch/page/own-look';

/** The page as it is just now, with the ink that is still wet above it; it can be looked at more closely. */
const props = defineProps<{
  moment: Moment;
  wet: readonly Piece[];
  images: ImageStore;
  /** Counts pictures that have arrived. */
  arrivals: number;
}>();

const frame = ref<HTMLElement>();
const settled = ref<HTMLCanvasElement>();
const above = ref<HTMLCanvasElement>();
let stage: Stage | null = null;
const { own, box, comeBack, wheeled } = useOwnLook(frame, () => props.moment, fit);

onMounted(fit);
useResizeObserver(frame, fit);
watch(
  () => [props.moment, props.wet] as const,
  ([now], [before]) => {
    const [page, was] = [shownPage(now.scene).page, shownPage(before.scene).page];
    if (page.id !== was.id) own.value = null;
    if (page !== was || (own.value === null && now.scene.look !== before.scene.look)) return fit();
    stage?.show(now);
    paintWet();
  },
  // Painted as soon as it is told.
  { flush: 'sync' },
);
watch(
  () => props.arrivals,
  () => stage?.repaint(),
);

function fit() {
  if (!settled.value || !above.value || !frame.value) return;
  stage ??= new Stage(settled.value, () => props.images);
  const size = stage.fit(props.moment, box(), own.value ?? undefined);
  for (const canvas of [settled.value, above.value]) {
    canvas.style.width = `${size.widthPx}px`;
    canvas.style.height = `${size.heightPx}px`;
  }
  above.value.width = settled.value.width;
  above.value.height = settled.value.height;
  paintWet();
}

function paintWet() {
  const surface = above.value?.getContext('2d');
  if (!surface || !stage) return;
  surface.setTransform(1, 0, 0, 1, 0, 0);
  surface.clearRect(0, 0, surface.canvas.width, surface.canvas.height);
  paintPieces(surface, props.wet, shownPage(props.moment.scene).page.paper.color, stage.placement);
}
</script>

<template>
  <div ref="frame" class="frame" @wheel.prevent="wheeled">
    <div class="page">
      <canvas ref="settled" class="settled" role="img" aria-label="The page as it is written"></canvas>
      <canvas ref="above" class="wet" aria-hidden="true"></canvas>
    </div>
    <button v-if="own" class="plain back" @click="comeBack">Follow again</button>
  </div>
</template>

<style scoped>
.frame {
  position: relative;
  display: grid;
  flex: 1;
  place-items: center;
  min-width: 0;
  overflow: hidden;
  touch-action: none;
}

.page {
  position: relative;
  line-height: 0;
}

canvas {
  border-radius: 4px;
  box-shadow: var(--shadow);
}

.wet {
  position: absolute;
  inset: 0;
  pointer-events: none;
  box-shadow: none;
}

.back {
  bottom: 12px;
  left: 12px;
  padding: 0 1rem;
}
</style>
