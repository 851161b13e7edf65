<script setup lang="ts">
import type { PageId } from '@kite-trail/core/lesson/ids';
import type { PageState, Scene } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import { fitPage } from '@kite-trail/core/paint/surface';
import { IconPlus } from '@tabler/icons-vue';
import { watchEffect, type ComponentPublicInstance } from 'vue';

/** The pages as small pictures: touch one to turn to it. */
const props = defineProps<{ scene: Scene; canAdd: boolean }>();
const emit = defineEmits<{ turn: [page: PageId]; add: [] }>();

const WIDTH_PX = 180;
const canvases = new Map<PageId, { canvas: HTMLCanvasElement; painted: PageState | null }>();

function remember(page: PageId, element: Element | ComponentPublicInstance | null) {
  if (!(element instanceof HTMLCanvasElement)) canvases.delete(page);
  else if (canvases.get(page)?.canvas !== element) canvases.set(page, { canvas: element, painted: null });
}

/** Repaints only pages that have changed, and never while the pen waits. */
watchEffect(
  () => {
    const { pages } = props.scene;
    requestIdleCallback(() => {
      for (const state of pages) {
        const leaf = canvases.get(state.page.id);
        if (!leaf || leaf.painted === state) continue;
        leaf.painted = state;
        const { canvas } = leaf;
        canvas.width = WIDTH_PX;
        canvas.height = Math.round((WIDTH_PX * state.page.heightPt) / state.page.widthPt);
        const size = { widthPx: canvas.width, heightPx: canvas.height };
        paintPage(canvas.getContext('2d')!, state, fitPage(state.page, size));
      }
    });
  },
  { flush: 'post' },
);
</script>

<template>
  <nav class="leaves" aria-label="Pages">
    <button
      v-for="(state, i) in scene.pages"
      :key="state.page.id"
      class="leaf"
      :aria-current="state.page.id === scene.shown ? 'page' : undefined"
      :aria-label="`Page ${i + 1}`"
      @click="emit('turn', state.page.id)"
    >
      <canvas :ref="(element) => remember(state.page.id, element as Element | null)"></canvas>
      <span class="number">{{ i + 1 }}</span>
    </button>
    <button v-if="canAdd" class="add" @click="emit('add')"><icon-plus :size="20" /> Add a page</button>
  </nav>
</template>

<style scoped>
.leaves {
  display: grid;
  gap: 8px;
  align-content: start;
  min-height: 0;
  padding: 3px;
  overflow-y: auto;
}

.leaf {
  position: relative;
  padding: 0;
  overflow: hidden;
  line-height: 0;
  cursor: pointer;
  background: var(--paper);
  border: 2px solid var(--line);
  border-radius: 8px;
}

.leaf canvas {
  width: 100%;
  aspect-ratio: 16 / 9;
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
  background: rgb(255 253 247 / 88%);
  border-radius: 5px;
}

.add {
  display: flex;
  gap: 6px;
  align-items: center;
  justify-content: center;
  min-height: 44px;
  color: var(--ink-soft);
  cursor: pointer;
  background: transparent;
  border: 2px dashed var(--line);
  border-radius: 8px;
}

.add:hover {
  color: var(--ink);
  border-color: var(--ink-soft);
}
</style>
