<script setup lang="ts">
import { INSTRUMENTS, pageUnit } from '@kite-trail/core/lesson/content';
import { NButton, NCheckbox, NInput, NInputNumber } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useMeasuring } from './measuring';
import ChoiceTile from '../../controls/ChoiceTile.vue';
import { INSTRUMENT_NAMES } from './instrument-names';
import InstrumentSign from './InstrumentSign.vue';
import OptionsPanel from '../../controls/OptionsPanel.vue';
import TileGrid from '../../controls/TileGrid.vue';

/** What lies on the page to measure and draw along, and what a centimetre of the page stands for. */
const measuring = useMeasuring();
const perCm = ref<number | null>(measuring.scale.perCm);
const unit = ref(measuring.scale.unit);
const canSet = computed(() => perCm.value !== null && perCm.value > 0 && unit.value.trim() !== '');

watch(
  () => measuring.scale,
  (scale) => {
    perCm.value = scale.perCm;
    unit.value = scale.unit;
  },
);

function set() {
  if (canSet.value) measuring.setScale({ perCm: perCm.value!, unit: pageUnit.parse(unit.value.trim()) });
}
</script>

<template>
  <options-panel name="Measure" :width-px="420">
    <tile-grid>
      <choice-tile
        v-for="one in INSTRUMENTS"
        :key="one"
        :name="INSTRUMENT_NAMES[one]"
        :chosen="measuring.lying.some(({ content }) => content.instrument === one)"
        @click="measuring.toggle(one)"
      >
        <instrument-sign :instrument="one" :size="30" />
      </choice-tile>
    </tile-grid>
    <p class="note">Write along an edge and the pen follows it. Drag one to move it, turn it with two fingers.</p>
    <n-checkbox v-model:checked="measuring.areForViewers">Viewers see them too</n-checkbox>
    <div class="scale" role="group" aria-label="Scale of this page">
      <span>1 cm of this page is</span>
      <n-input-number
        v-model:value="perCm"
        class="number"
        :show-button="false"
        :min="0"
        :input-props="{ 'aria-label': 'A centimetre is' }"
        @keydown.enter="set"
      />
      <n-input
        v-model:value="unit"
        class="unit"
        maxlength="12"
        :input-props="{ 'aria-label': 'Unit' }"
        @keydown.enter="set"
      />
      <n-button :disabled="!canSet" @click="set">Set</n-button>
      <n-button quaternary title="A centimetre is a centimetre" @click="measuring.setScale(null)">Plain</n-button>
    </div>
  </options-panel>
</template>

<style scoped>
.note {
  margin: 0;
  color: var(--ink-soft);
}

.scale {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}

.number {
  width: 76px;
}

.unit {
  width: 64px;
}
</style>
