<script setup lang="ts">
import type { PageState } from '@kite-trail/core/lesson/scene';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { paintPage } from '@kite-trail/core/paint/painter';
import type { Images } from '@kite-trail/core/paint/picture';
import { fitPage } from '@kite-trail/core/paint/surface';
import { nextTick, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { idle } from '../../device/idle';

/** All pages as they are in the end: touch one to go to where it is explained. */
const props = defineProps<{
  timeline: Timeline;
  /** The number of the page shown. */
  page: number;
  images: Images;
  /** Counts pictures that have arrived. */
  arrivals: number;
}>();
const emit = defineEmits<{ page: [number: number] }>();

const list = ref<HTMLElement>();
const states = shallowRef<readonly PageState[]>([]);
const inView = new Set<HTMLCanvasElement>();

/** Only what is in view is painted, and never while the explanation waits for it. */
const observer = new IntersectionObserver((entries) => {
  for (const { target, isIntersecting } of entries) {
    const canvas = target as HTMLCanvasElement;
    if (!isIntersecting) inView.delete(canvas);
    else if (!inView.has(canvas)) {
      inView.add(canvas);
      void idle().then(() => paint(canvas));
    }
  }
});
// To play all of a long explanation takes a while: what is to be heard and seen first goes first.
void idle().then(async () => {
  states.value = props.timeline.at(props.timeline.lengthSamples).scene.pages;
  await nextTick();
  list.value?.querySelectorAll('canvas').forEach((canvas) => observer.observe(canvas));
});
onBeforeUnmount(() => observer.disconnect());
watch(
  () => props.arrivals,
  () => inView.forEach(paint),
);

function paint(canvas: HTMLCanvasElement) {
  const state = states.value[Number(canvas.dataset.at)];
  const { widthPt, heightPt } = state.page;
  const widthPx = Math.round(canvas.clientWidth * (window.devicePixelRatio || 1));
  const heightPx = Math.round((widthPx * heightPt) / widthPt);
  if (widthPx === 0) return;
  canvas.width = widthPx;
  canvas.height = heightPx;
  paintPage(canvas.getContext('2d')!, state, fitPage(state.page, { widthPx, heightPx }), props.images);
}
</script>

<template>
  <nav ref="list" class="pages" :class="{ few: states.length < 3 }" aria-label="Pages">
    <button
      v-for="(state, at) in states"
      :key="state.page.id"
      class="page"
      :aria-label="`Page ${at + 1}`"
      :aria-current="page === at + 1 ? 'page' : undefined"
      @click="emit('page', at + 1)"
    >
      <canvas :data-at="at" :style="{ aspectRatio: `${state.page.widthPt} / ${state.page.heightPt}` }"></canvas>
    </button>
  </nav>
</template>

<style scoped>
.pages {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
  align-content: start;
  padding: 4px;
  overflow-y: auto;
}

.few {
  grid-template-columns: 1fr;
}

.page {
  min-height: 44px;
  padding: 0;
  overflow: hidden;
  line-height: 0;
  cursor: pointer;
  background: var(--sail-deep);
  border: 2px solid var(--line);
  border-radius: 8px;
}

.page[aria-current] {
  border-color: var(--straw);
  box-shadow: 0 0 0 2px var(--straw);
}

canvas {
  width: 100%;
}
</style>
