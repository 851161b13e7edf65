<script setup lang="ts">
import { blankPage, type Paper, type PaperKind } from '@kite-trail/core/lesson/page';
import { MAP_PARTS, type MapPart } from '@kite-trail/core/maps/outline-map';
import { isDark } from '@kite-trail/core/paint/legible';
import { paintPage } from '@kite-trail/core/paint/painter';
import { paintPaper } from '@kite-trail/core/paint/paper';
import { NO_IMAGES } from '@kite-trail/core/paint/picture';
import { fitPage } from '@kite-trail/core/paint/surface';
import { NButton, NCheckbox } from 'naive-ui';
import { computed, nextTick, onMounted, reactive, ref, watch, type ComponentPublicInstance } from 'vue';
import { usePages } from './pages';
import { usePaperPicture } from './paper-picture';
import ChoiceTile from '../controls/ChoiceTile.vue';
import ColorDots from '../controls/ColorDots.vue';
import ColorField from '../controls/ColorField.vue';
import OptionsPanel from '../controls/OptionsPanel.vue';
import ProblemText from '../controls/ProblemText.vue';
import RangeField from '../controls/RangeField.vue';
import SelectField from '../controls/SelectField.vue';
import TileGrid from '../controls/TileGrid.vue';

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
const MAP_NAMES: Record<MapPart, string> = {
  world: 'The world',
  africa: 'Africa',
  antarctica: 'Antarctica',
  asia: 'Asia',
  europe: 'Europe',
  'north-america': 'North America',
  oceania: 'Oceania',
  'south-america': 'South America',
};
/** Coasts must be seen better than the lines one writes on. */
const COAST_COLORS = { light: '#5b7083', dark: '#9fb4cc' };
const TILE = { widthPx: 92, heightPx: 58 };

const pages = usePages();
const pictures = usePaperPicture();
const { page } = pages.shown();
const { pxPerPt } = fitPage(page, { widthPx: 440, heightPx: 300 });
const PREVIEW = { widthPx: Math.round(page.widthPt * pxPerPt), heightPx: Math.round(page.heightPt * pxPerPt) };
const paper = reactive<Paper>({ ...page.paper });
const map = ref<MapPart | null>(null);
const borders = ref(true);
const picker = ref<HTMLInputElement>();
let arriving = Promise.resolve();
const preview = ref<HTMLCanvasElement>();
const tiles = new Map<PaperKind, HTMLCanvasElement>();

onMounted(paint);
watch(paper, () => void nextTick(paint));
watch([map, borders, () => paper.lineColor], drawMap);

function remember(kind: PaperKind, element: Element | ComponentPublicInstance | null) {
  if (element instanceof HTMLCanvasElement) tiles.set(kind, element);
}

function paint() {
  const size = { widthPt: TILE.widthPx, heightPt: TILE.heightPx };
  for (const { kind, spacingPt } of KINDS) {
    const surface = tiles.get(kind)?.getContext('2d');
    if (!surface) continue;
    surface.setTransform(2, 0, 0, 2, 0, 0);
    const tile = { ...paper, kind, spacingPt: spacingPt / 2.4, picture: null };
    paintPaper(surface, blankPage('tile' as never, size, tile), NO_IMAGES, 2);
  }
  paintPreview();
}

function paintPreview() {
  const surface = preview.value?.getContext('2d');
  if (!surface) return;
  const state = { page: { ...page, paper, sheet: null }, pieces: [] };
  paintPage(surface, state, fitPage(page, PREVIEW), pictures.images);
}

function choose(kind: PaperKind, spacingPt: number) {
  Object.assign(paper, { kind, spacingPt });
}

function dye(color: string) {
  const lineColor = COLORS.find((one) => one.color === color)?.lineColor ?? (isDark(color) ? '#4a5b78' : '#cfd9dc');
  Object.assign(paper, { color, lineColor: map.value ? coastColor(color) : lineColor });
}

const coastColor = (color: string) => (isDark(color) ? COAST_COLORS.dark : COAST_COLORS.light);

/** What is printed on the paper: nothing, a picture, or a blank map. */
const printed = computed({
  get: () => map.value ?? (paper.picture ? 'picture' : 'nothing'),
  set: (one: MapPart | 'picture' | 'nothing') => {
    if (one === 'picture') return;
    map.value = one === 'nothing' ? null : one;
    if (one === 'nothing') arriving = Promise.resolve(putOn(null));
    else Object.assign(paper, { kind: 'plain', lineColor: coastColor(paper.color) });
  },
});

const printable = computed(() => [
  { value: 'nothing' as const, label: 'Nothing' },
  ...(printed.value === 'picture' ? [{ value: 'picture' as const, label: 'A picture' }] : []),
  { group: 'A blank map', options: MAP_PARTS.map((value) => ({ value, label: MAP_NAMES[value] })) },
]);

function drawMap() {
  if (map.value) arriving = pictures.tryMap(map.value, paper.lineColor, borders.value, page).then(putOn);
}

function picked() {
  const [file] = picker.value?.files ?? [];
  picker.value!.value = '';
  if (!file) return;
  map.value = null;
  Object.assign(paper, { kind: 'plain' });
  arriving = pictures.tryPicture(file).then(putOn);
}

function putOn(picture: Paper['picture']) {
  paper.picture = picture;
  paintPreview();
}

async function take(forAll: boolean) {
  // What was chosen last may still be on its way.
  await arriving;
  pages.takePaper({ ...paper, picture: await pictures.kept(paper.picture) }, forAll);
  emit('done');
}
</script>

<template>
  <options-panel name="Paper" :width-px="540">
    <tile-grid role="group" aria-label="Kind of paper">
      <choice-tile
        v-for="one in KINDS"
        :key="one.kind"
        :name="one.name"
        :chosen="paper.kind === one.kind"
        @click="choose(one.kind, one.spacingPt)"
      >
        <canvas
          :ref="(element) => remember(one.kind, element as Element | null)"
          :width="TILE.widthPx * 2"
          :height="TILE.heightPx * 2"
          class="sample"
        ></canvas>
      </choice-tile>
    </tile-grid>
    <color-dots label="Colour of the paper" :colors="COLORS" :model-value="paper.color" @update:model-value="dye" />
    <div class="row">
      <span class="name">Lines</span>
      <color-field v-model="paper.lineColor" />
      <range-field v-model="paper.spacingPt" :min="6" :max="72" :step="1">
        Spacing {{ Math.round((paper.spacingPt / 72) * 25.4) }} mm
      </range-field>
    </div>
    <div class="ground">
      <canvas
        ref="preview"
        class="preview"
        :width="PREVIEW.widthPx"
        :height="PREVIEW.heightPx"
        role="img"
        aria-label="How the paper will look"
      ></canvas>
      <div class="printed" role="group" aria-label="Printed on the paper">
        <div class="what">
          Printed on it
          <select-field v-model="printed" label="Printed on it" :options="printable" />
        </div>
        <n-checkbox v-if="map" v-model:checked="borders">Borders on the map</n-checkbox>
        <n-button @click="picker?.click()">Print a picture on it…</n-button>
        <problem-text v-if="pictures.problem">{{ pictures.problem }}</problem-text>
        <input
          ref="picker"
          class="visually-hidden"
          type="file"
          accept="image/*"
          tabindex="-1"
          aria-label="Picture for the paper"
          @change="picked"
        />
      </div>
    </div>
    <div class="row end">
      <n-button @click="take(true)">Use for all pages</n-button>
      <n-button type="primary" @click="take(false)">Use for this page</n-button>
    </div>
  </options-panel>
</template>

<style scoped>
.sample {
  width: 100%;
  border: 1px solid var(--line);
  border-radius: 6px;
}

.ground {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
}

.preview {
  max-width: 220px;
  max-height: 150px;
  border: 1px solid var(--line);
  border-radius: 6px;
}

.printed {
  display: grid;
  flex: 1 1 180px;
  gap: 8px;
  align-content: start;
  justify-items: start;
}

.what {
  display: grid;
  gap: 4px;
  width: 100%;
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}

.end {
  justify-content: flex-end;
}

.name {
  flex: none;
}
</style>
