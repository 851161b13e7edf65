<script setup lang="ts">
import type { PageId } from '@kite-trail/core/lesson/ids';
import type { Placement } from '@kite-trail/core/paint/surface';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { madeAt, momentsOfMaking } from '@kite-trail/core/trail/made-at';
import type { Moment } from '@kite-trail/core/trail/timeline';
import type { Trail } from '@kite-trail/core/trail/trail';
import { useResizeObserver } from '@vueuse/core';
import { computed, ref, shallowRef, watch } from 'vue';
import type { ImageStore } from '../../pictures/image-store';
import { Stage } from '../../playback/stage';
import { useOwnLook } from './own-look';
import PageLinks from './PageLinks.vue';

/** The page as it is at a moment, as large as there is room; it can be looked at more closely, and its marks be touched. */
const props = defineProps<{
  moment: Moment;
  pages: readonly PageId[];
  images: ImageStore;
  /** Counts pictures that have arrived. */
  arrivals: number;
  trail: Trail;
}>();
const emit = defineEmits<{ page: [number: number]; hear: [atSamples: number]; toggle: [] }>();

/** A finger touches what is so near. */
const REACH_PX = 14;

const frame = ref<HTMLElement>();
const canvas = ref<HTMLCanvasElement>();
const placement = shallowRef<Placement>({ leftPx: 0, topPx: 0, pxPerPt: 1 });
let stage: Stage | null = null;

const tallness = computed(() => {
  const { page } = shownPage(props.moment.scene);
  return page.heightPt / page.widthPt;
});
const moments = computed(() => momentsOfMaking(props.trail));
const shown = computed(() => props.moment.scene.shown);
const number = computed(() => props.pages.indexOf(shown.value) + 1);
const { own, box, comeBack, wheeled } = useOwnLook(frame, () => props.moment, fit);

useResizeObserver(frame, fit);
watch(
  () => props.moment,
  (now, before) => {
    if (own.value === null && now.scene.look !== before.scene.look) fit();
    else stage?.show(now);
  },
  // Painted in the frame in which the sound is heard.
  { flush: 'sync' },
);
watch(shown, () => (own.value = null));
watch(
  () => props.arrivals,
  () => stage?.repaint(),
);

function fit() {
  if (!canvas.value || !frame.value) return;
  stage ??= new Stage(canvas.value, () => props.images);
  const size = stage.fit(props.moment, box(), own.value ?? undefined);
  placement.value = size.placement;
  canvas.value.style.width = `${size.widthPx}px`;
  canvas.value.style.height = `${size.heightPx}px`;
}

/** A mark that is touched is to be heard; bare paper plays and pauses. */
function touched(event: MouseEvent) {
  const { left, top } = canvas.value!.getBoundingClientRect();
  const { leftPx, topPx, pxPerPt } = placement.value;
  const at = { xPt: (event.clientX - left - leftPx) / pxPerPt, yPt: (event.clientY - top - topPx) / pxPerPt };
  const found = madeAt(moments.value, props.moment, at, REACH_PX / pxPerPt);
  if (found === null) emit('toggle');
  else emit('hear', found);
}

defineExpose({ fill: () => frame.value?.requestFullscreen() });
</script>

<template>
  <div ref="frame" class="frame" :style="{ '--tallness': tallness }" @click="touched" @wheel.prevent="wheeled">
    <div class="page">
      <canvas ref="canvas" role="img" :aria-label="`Page ${number} of ${pages.length}`"></canvas>
      <span class="tint"></span>
      <page-links :moment="moment" :placement="placement" :pages="pages" @page="emit('page', $event)" />
    </div>
    <slot />
    <button v-if="own" class="plain back" @click.stop="comeBack">Follow again</button>
  </div>
</template>

<style scoped>
.frame {
  display: grid;
  flex: 1;
  min-width: 0;
  position: relative;
  place-items: center;
  min-height: 0;
  overflow: hidden;
  touch-action: none;
}

.frame:fullscreen {
  background: var(--sail);
}

.page {
  position: relative;
  line-height: 0;
}

.tint {
  position: absolute;
  inset: 0;
  pointer-events: none;
  background: var(--tint);
  mix-blend-mode: multiply;
}

.back {
  position: absolute;
  right: 8px;
  bottom: 8px;
}

canvas {
  border-radius: 4px;
  box-shadow: var(--shadow);
}

/* A phone held upright has the page across its top. */
@media (max-width: 760px) and (max-aspect-ratio: 3/4) {
  .frame:not(:fullscreen) {
    flex: none;
    height: min(56dvh, calc(100vw * var(--tallness) + 8px));
  }
}
</style>
