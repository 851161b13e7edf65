<script setup lang="ts">
import { LARGEST_SIDE_PT, LEAST_SIDE_PT, PAGE_SIZES } from '@kite-trail/core/lesson/page';
import { IconArrowBarDown, IconArrowBarLeft, IconArrowBarRight, IconArrowBarUp } from '@tabler/icons-vue';
import { NButton, NCheckbox } from 'naive-ui';
import { computed, ref } from 'vue';
import { usePages } from './pages';
import ChoiceTile from '../controls/ChoiceTile.vue';
import MeasureField from './MeasureField.vue';
import OptionsPanel from '../controls/OptionsPanel.vue';
import TileGrid from '../controls/TileGrid.vue';
import ProblemText from '../controls/ProblemText.vue';

/** Chooses the size of the page shown, and gives it room to write on any side. */
const PT_PER_MM = 72 / 25.4;
const SIDES = [
  { name: 'Room on the left', key: 'leftPt', icon: IconArrowBarLeft },
  { name: 'Room on the right', key: 'rightPt', icon: IconArrowBarRight },
  { name: 'Room above', key: 'topPt', icon: IconArrowBarUp },
  { name: 'Room below', key: 'bottomPt', icon: IconArrowBarDown },
] as const;

const pages = usePages();
const page = computed(() => pages.shown().page);
const mm = (pt: number) => Math.round((pt / PT_PER_MM) * 10) / 10;
const own = ref({ width: mm(page.value.widthPt), height: mm(page.value.heightPt) });
const LEAST_MM = Math.ceil(mm(LEAST_SIDE_PT));
const LARGEST_MM = Math.floor(mm(LARGEST_SIDE_PT));
const isWrong = (sideMm: number) => sideMm < LEAST_MM || sideMm > LARGEST_MM;
const isOwnWrong = computed(() => isWrong(own.value.width) || isWrong(own.value.height));

function resize(widthPt: number, heightPt: number) {
  const size = { widthPt: onGrid(widthPt), heightPt: onGrid(heightPt) };
  pages.resize(size);
  own.value = { width: mm(size.widthPt), height: mm(size.heightPt) };
}

const onGrid = (pt: number) => Math.round(pt * 32) / 32;
</script>

<template>
  <options-panel name="Size and room" :width-px="460">
    <tile-grid v-if="!page.sheet" role="group" aria-label="Size of the page">
      <choice-tile
        v-for="size in PAGE_SIZES"
        :key="size.name"
        :name="size.name"
        :chosen="page.widthPt === size.widthPt && page.heightPt === size.heightPt"
        @click="resize(size.widthPt, size.heightPt)"
      >
        <span class="shape" :style="{ aspectRatio: `${size.widthPt} / ${size.heightPt}` }"></span>
      </choice-tile>
    </tile-grid>
    <div v-if="!page.sheet" class="row">
      <measure-field v-model="own.width" label="Width of the page" :is-wrong="isWrong(own.width)" />
      <span>wide,</span>
      <measure-field v-model="own.height" label="Height of the page" :is-wrong="isWrong(own.height)" />
      <span>high</span>
      <n-button :disabled="isOwnWrong" @click="resize(own.width * PT_PER_MM, own.height * PT_PER_MM)">Set</n-button>
    </div>
    <problem-text v-if="isOwnWrong">A page is {{ LEAST_MM }} to {{ LARGEST_MM }} mm wide and high.</problem-text>
    <p v-if="page.sheet" class="note">
      This page is as large as its PDF page. It can be given room to write beside it.
    </p>
    <n-checkbox v-model:checked="pages.grows">Pages of this lesson grow downwards while I write</n-checkbox>
    <div class="sides">
      <div v-for="side in SIDES" :key="side.key" class="side">
        <component :is="side.icon" :size="22" />
        <span>{{ side.name }}</span>
        <n-button size="small" :aria-label="`${side.name}: less`" @click="pages.giveRoom(side.key, 'less')"
          >Less</n-button
        >
        <n-button size="small" :aria-label="`${side.name}: more`" @click="pages.giveRoom(side.key, 'more')"
          >More</n-button
        >
      </div>
    </div>
  </options-panel>
</template>

<style scoped>
.shape {
  max-width: 62px;
  height: 40px;
  margin: 4px 0;
  background: var(--paper);
  border: 2px solid var(--ink-soft);
  border-radius: 3px;
}

.row {
  display: flex;
  gap: 8px;
  align-items: center;
}

.note {
  margin: 0;
  color: var(--ink-soft);
}

.sides {
  display: grid;
  gap: 6px;
}

.side {
  display: grid;
  grid-template-columns: 26px 1fr auto auto;
  gap: 8px;
  align-items: center;
}
</style>
