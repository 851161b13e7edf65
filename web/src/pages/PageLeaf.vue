<script setup lang="ts">
import { filesOn } from '@kite-trail/core/lesson/files';
import type { PageState } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import { fitPage } from '@kite-trail/core/paint/surface';
import { onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useFiles } from '../lesson/files';
import { idle } from '../device/idle';
import { useResizeObserver } from '@vueuse/core';

/** One page as a small picture. */
const props = defineProps<{ state: PageState; number: number; shown: boolean }>();
const emit = defineEmits<{ turn: [] }>();

const files = useFiles();
const canvas = ref<HTMLCanvasElement>();
let inView = false;
/** How large the picture is on the screen, in CSS pixels, as soon as it is known. */
let box: { width: number; height: number } | null = null;
let painted: PageState | null = null;
let asked = false;

const observer = new IntersectionObserver((entries) => {
  // Of several, the last says how it is now.
  inView = entries.at(-1)!.isIntersecting;
  paintSoon();
});
onMounted(() => observer.observe(canvas.value!));
onBeforeUnmount(() => observer.disconnect());
// A tablet that is turned, and a window that is drawn larger, want finer pictures.
useResizeObserver(
  canvas,
  ([
    {
      contentRect: { width, height },
    },
  ]) => {
    box = { width, height };
    paintAgain();
  },
);
watch(() => props.state, paintSoon);
watch(
  () => files.arrivals,
  () => filesOn(props.state).length > 0 && paintAgain(),
);

function paintAgain() {
  painted = null;
  paintSoon();
}

/** Only what is in view is painted, only when it has changed, and never while the pen waits. */
function paintSoon() {
  if (!inView || !box || asked) return;
  asked = true;
  void idle().then(() => {
    asked = false;
    const { state } = props;
    if (!canvas.value || !box || painted === state) return;
    painted = state;
    const density = window.devicePixelRatio || 1;
    const scale = density * Math.min(box.width / state.page.widthPt, box.height / state.page.heightPt);
    const widthPx = Math.max(1, Math.round(state.page.widthPt * scale));
    const heightPx = Math.max(1, Math.round(state.page.heightPt * scale));
    canvas.value.width = widthPx;
    canvas.value.height = heightPx;
    const surface = canvas.value.getContext('2d')!;
    paintPage(surface, state, fitPage(state.page, { widthPx, heightPx }), files.images);
  });
}
</script>

<template>
  <button class="leaf" :aria-current="shown ? 'page' : undefined" :aria-label="`Page ${number}`" @click="emit('turn')">
    <canvas ref="canvas" :style="{ aspectRatio: `${state.page.widthPt} / ${state.page.heightPt}` }"></canvas>
    <span class="number">{{ number }}</span>
  </button>
</template>

<style scoped>
.leaf {
  position: relative;
  display: block;
  width: 100%;
  padding: 0;
  overflow: hidden;
  line-height: 0;
  cursor: pointer;
  background: var(--sail-deep);
  border: 2px solid var(--line);
  border-radius: 8px;
}

.leaf canvas {
  width: 100%;
  max-height: 150px;
  object-fit: contain;
}

.leaf[aria-current] {
  border-color: var(--straw);
  box-shadow: 0 0 0 2px var(--straw);
}

.number {
  position: absolute;
  right: 5px;
  bottom: 4px;
  padding: 0 6px;
  font-size: 0.85rem;
  line-height: 1.4;
  background: var(--veil);
  border-radius: 5px;
}
</style>
