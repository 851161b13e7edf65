<script setup lang="ts">
import { BROADEST_PT, THINNEST_PT } from '@kite-trail/core/contract/pens';
import { NButton, NCheckbox } from 'naive-ui';
import { computed, ref } from 'vue';
import { PEN_SORTS, usePens, WIDTHS_AT_HAND, type PenKind } from './pens';
import ChoiceTile from '../../controls/ChoiceTile.vue';
import ColorDots from '../../controls/ColorDots.vue';
import PenSample from './PenSample.vue';
import TryPen from './TryPen.vue';
import OptionsPanel from '../../controls/OptionsPanel.vue';
import RangeField from '../../controls/RangeField.vue';
import TileGrid from '../../controls/TileGrid.vue';

/** Changes the pen that is held: its kind, colour and width. */
const emit = defineEmits<{ done: [] }>();
const pens = usePens();
const [, medium] = WIDTHS_AT_HAND;
/** What few change, and rarely, would hide the page. */
const isAll = ref(false);

const isInPalette = computed(() => pens.palette.some(({ color }) => color === pens.heldPen.color));
const colors = computed(() => [
  ...pens.palette,
  ...pens.recentColors.map((color) => ({ name: `Used before: ${color}`, color })),
]);

/** A highlighter is broad and a pen is not: a change of sort brings its own width. */
function choose(kind: PenKind) {
  const wasBroad = pens.heldPen.kind === 'highlighter';
  const isBroad = kind === 'highlighter';
  pens.change({ kind, ...(wasBroad !== isBroad ? { widthPt: isBroad ? medium.broadPt : medium.widthPt } : {}) });
}

function remove() {
  pens.remove();
  emit('done');
}
</script>

<template>
  <options-panel name="Pen" :width-px="452">
    <tile-grid role="group" aria-label="Kind of pen">
      <choice-tile
        v-for="one in PEN_SORTS"
        :key="one.kind"
        :name="one.name"
        :chosen="pens.heldPen.kind === one.kind"
        @click="choose(one.kind)"
      >
        <pen-sample :pen="{ ...pens.heldPen, kind: one.kind, widthPt: one.kind === 'highlighter' ? 11 : 3 }" />
      </choice-tile>
    </tile-grid>
    <color-dots
      label="Colour of the ink"
      :colors="colors"
      :model-value="pens.heldPen.color"
      @update:model-value="(color) => pens.change({ color })"
    />
    <range-field
      :model-value="pens.heldPen.widthPt"
      :min="THINNEST_PT"
      :max="BROADEST_PT"
      :step="0.2"
      @update:model-value="(widthPt?: number) => pens.change({ widthPt })"
    >
      Width {{ ((pens.heldPen.widthPt / 72) * 25.4).toFixed(1) }} mm
    </range-field>
    <n-button v-if="!isAll" quaternary size="small" class="more" @click="isAll = true">More of this pen</n-button>
    <div v-if="isAll" class="row">
      <n-button
        v-if="isInPalette"
        size="small"
        :disabled="pens.palette.length === 1"
        @click="pens.takeFromPalette(pens.heldPen.color)"
      >
        Take this colour out of the palette
      </n-button>
      <n-button v-else size="small" @click="pens.addToPalette(pens.heldPen.color)"
        >Keep this colour in the palette</n-button
      >
    </div>
    <try-pen v-if="isAll" />
    <range-field v-if="isAll && pens.hasPen" v-model="pens.pressHardness" :min="0" :max="1" :step="0.05">
      Pressure: soft to hard
    </range-field>
    <n-checkbox
      v-if="isAll"
      :checked="pens.straight === 'always'"
      @update:checked="(always: boolean) => (pens.straight = always ? 'always' : 'held')"
    >
      Make all lines and shapes exact (else hold the pen still at their end)
    </n-checkbox>
    <n-checkbox v-if="isAll && pens.hasPen" v-model:checked="pens.fingersWrite">Fingers write, too</n-checkbox>
    <div class="row end">
      <n-button :disabled="pens.roll.length === 1" @click="remove">Take it out of the roll</n-button>
      <n-button @click="pens.add()">Add a pen like this</n-button>
    </div>
  </options-panel>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}

.end {
  justify-content: flex-end;
}

.more {
  justify-self: start;
}
</style>
