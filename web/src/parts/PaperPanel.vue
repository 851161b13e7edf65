<script setup lang="ts">
import { blankPage, type Paper, type PaperKind } from '@kite-trail/core/lesson/page';
import { isDark } from '@kite-trail/core/paint/legible';
import { paintPaper } from '@kite-trail/core/paint/paper';
import { NButton, NColorPicker, NSlider } from 'naive-ui';
import { nextTick, onMounted, reactive, watch, type ComponentPublicInstance } from 'vue';
import { usePages } from '../stores/pages';

/** Chooses the paper of the page shown, or of all pages. */
const emit = defineEmits<{ done: [] }>();

const KINDS: { kind: PaperKind; name: string; spacingPt: number }[] = [
  { kind: 'plain', name: 'Plain', spacingPt: 24 },
  { kind: 'ruled', name: 'Ruled', spacingPt: 26 },
  { kind: 'margin', name: 'Ruled with margin', spacingPt: 26 },
  { kind: 'squared', name: 'Squared', spacingPt: 24 },
  { kind: 'dotted', name: 'Dotted', spacingPt: 24 },
  { kind: 'isometric', name: 'Isometric', spacingPt: 28 },
  { kind: 'polar', name: 'Polar', spacingPt: 36 },
  { kind: 'axes', name: 'Axes', spacingPt: 24 },
  { kind: 'staves', name: 'Music staves', spacingPt: 9 },
  { kind: 'handwriting', name: 'Handwriting lines', spacingPt: 18 },
];
const COLORS = [
  { name: 'Sail', color: '#fffdf7', lineColor: '#d5e3e6' },
  { name: 'White', color: '#ffffff', lineColor: '#d5dfe6' },
  { name: 'Straw', color: '#fbf1d3', lineColor: '#e3d3a4' },
  { name: 'Mist', color: '#e9f1ef', lineColor: '#c3d6d2' },
  { name: 'Night', color: '#15233b', lineColor: '#33486a' },
  { name: 'Board green', color: '#17352e', lineColor: '#345a50' },
];
const TILE = { widthPx: 92, heightPx: 58 };

const pages = usePages();
const paper = reactive<Paper>({ ...pages.shown().page.paper });
const tiles = new Map<PaperKind, HTMLCanvasElement>();

onMounted(paintTiles);
watch(paper, () => void nextTick(paintTiles));

function remember(kind: PaperKind, element: Element | ComponentPublicInstance | null) {
  if (element instanceof HTMLCanvasElement) tiles.set(kind, element);
}

function paintTiles() {
  const size = { widthPt: TILE.widthPx, heightPt: TILE.heightPx };
  for (const { kind, spacingPt } of KINDS) {
    const surface = tiles.get(kind)?.getContext('2d');
    if (!surface) continue;
    surface.setTransform(2, 0, 0, 2, 0, 0);
    paintPaper(surface, blankPage('tile' as never, size, { ...paper, kind, spacingPt: spacingPt / 2.4 }));
  }
}

function choose(kind: PaperKind, spacingPt: number) {
  Object.assign(paper, { kind, spacingPt });
}

function dye(color: string) {
  const lineColor = COLORS.find((one) => one.color === color)?.lineColor ?? (isDark(color) ? '#4a5b78' : '#cfd9dc');
  Object.assign(paper, { color, lineColor });
}

function take(forAll: boolean) {
  pages.takePaper({ ...paper }, forAll);
  emit('done');
}
</script>

<template>
  <section class="panel" aria-label="Paper">
    <div class="kinds" role="group" aria-label="Kind of paper">
      <button
        v-for="one in KINDS"
        :key="one.kind"
        class="kind"
        :aria-pressed="paper.kind === one.kind"
        @click="choose(one.kind, one.spacingPt)"
      >
        <canvas
          :ref="(element) => remember(one.kind, element as Element | null)"
          :width="TILE.widthPx * 2"
          :height="TILE.heightPx * 2"
        ></canvas>
        {{ one.name }}
      </button>
    </div>
    <div class="row" role="group" aria-label="Colour of the paper">
      <button
        v-for="one in COLORS"
        :key="one.color"
        class="dye"
        :style="{ background: one.color }"
        :aria-label="one.name"
        :aria-pressed="paper.color === one.color"
        @click="dye(one.color)"
      ></button>
      <span class="own"
        ><n-color-picker
          :value="paper.color"
          :show-alpha="false"
          :modes="['hex']"
          @update:value="(color: string) => dye(color.toLowerCase().slice(0, 7))"
      /></span>
    </div>
    <div class="row">
      <span class="name">Lines</span>
      <span class="own"
        ><n-color-picker
          :value="paper.lineColor"
          :show-alpha="false"
          :modes="['hex']"
          @update:value="(color: string) => (paper.lineColor = color.toLowerCase().slice(0, 7))"
      /></span>
      <span class="name">Spacing {{ Math.round((paper.spacingPt / 72) * 25.4) }} mm</span>
      <n-slider v-model:value="paper.spacingPt" class="spacing" :min="6" :max="72" :step="1" :tooltip="false" />
    </div>
    <div class="row end">
      <n-button @click="take(true)">Use for all pages</n-button>
      <n-button type="primary" @click="take(false)">Use for this page</n-button>
    </div>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 14px;
  width: min(540px, 86vw);
}

.kinds {
  display: grid;
  grid-template-columns: repeat(5, 1fr);
  gap: 8px;
}

.kind {
  display: grid;
  gap: 4px;
  align-content: start;
  justify-items: center;
  padding: 4px;
  font-size: 0.85rem;
  line-height: 1.15;
  cursor: pointer;
  background: transparent;
  border: 2px solid transparent;
  border-radius: 10px;
}

.kind canvas {
  width: 100%;
  border: 1px solid var(--line);
  border-radius: 6px;
}

.kind[aria-pressed='true'] {
  background: var(--straw-pale);
  border-color: var(--straw);
}

.row {
  display: flex;
  gap: 10px;
  align-items: center;
}

.end {
  justify-content: flex-end;
}

.dye {
  flex: none;
  width: 36px;
  height: 36px;
  cursor: pointer;
  border: 2px solid var(--line);
  border-radius: 50%;
}

.dye[aria-pressed='true'] {
  outline: 3px solid var(--straw);
}

.own {
  flex: 0 0 104px;
  width: 104px;
}

.name {
  flex: none;
}

.spacing {
  flex: 1;
}
</style>
