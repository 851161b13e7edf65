<script setup lang="ts">
import type { Contents } from '@kite-trail/core/lesson/content';
import { IconPlus, IconTrash } from '@tabler/icons-vue';
import { NButton, NCheckbox, NInput, NInputNumber } from 'naive-ui';
import { usePens } from '../pens/pens';
import ActionButton from '../../controls/ActionButton.vue';
import ColorField from '../../controls/ColorField.vue';

/** The ranges of the axes and the curves on them. */
const plot = defineModel<Contents['plot']>({ required: true });
const MOST_CURVES = 8;
const pens = usePens();

function setRange(axis: 'x' | 'y', end: 'from' | 'to', value: number | null) {
  if (value === null) return;
  const range = { ...plot.value[axis], [end]: value };
  // A range keeps its length where its ends would meet.
  if (range.from >= range.to) range[end === 'from' ? 'to' : 'from'] = value + (end === 'from' ? 1 : -1);
  plot.value[axis] = range;
}

function addCurve() {
  const { color } = pens.palette[(plot.value.curves.length + 1) % pens.palette.length];
  plot.value.curves.push({ expression: 'y = ', color });
}
</script>

<template>
  <div v-for="(curve, n) in plot.curves" :key="n" class="curve">
    <n-input
      v-model:value="curve.expression"
      placeholder="y = sin(x), or x^2 + y^2 = 4"
      :input-props="{ 'aria-label': `Curve ${n + 1}`, maxlength: 200, spellcheck: 'false' }"
    />
    <color-field v-model="curve.color" />
    <action-button
      name="Remove this curve"
      type="button"
      :icon="IconTrash"
      :disabled="plot.curves.length === 1"
      @click="plot.curves.splice(n, 1)"
    />
  </div>
  <n-button :disabled="plot.curves.length >= MOST_CURVES" @click="addCurve">
    <template #icon><icon-plus :size="18" /></template>
    Add a curve
  </n-button>
  <div v-for="axis in ['x', 'y'] as const" :key="axis" class="range">
    <span>{{ axis }} from</span>
    <n-input-number
      :value="plot[axis].from"
      :input-props="{ 'aria-label': `${axis} from` }"
      @update:value="(value) => setRange(axis, 'from', value)"
    />
    <span>to</span>
    <n-input-number
      :value="plot[axis].to"
      :input-props="{ 'aria-label': `${axis} to` }"
      @update:value="(value) => setRange(axis, 'to', value)"
    />
  </div>
  <n-checkbox v-model:checked="plot.grid">Grid</n-checkbox>
</template>

<style scoped>
.curve {
  display: grid;
  grid-template-columns: 1fr auto 44px;
  gap: 8px;
  align-items: center;
}

.range {
  display: grid;
  grid-template-columns: 4rem 1fr 1.5rem 1fr;
  gap: 8px;
  align-items: center;
}
</style>
