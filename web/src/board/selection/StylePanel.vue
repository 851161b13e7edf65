<script setup lang="ts">
import type { Contents } from '@kite-trail/core/lesson/content';
import { NCheckbox } from 'naive-ui';
import { computed } from 'vue';
import { useComposing } from '../composing/composing';
import { usePens } from '../pens/pens';
import { useSelection } from './selection';
import ColorDots from '../../controls/ColorDots.vue';
import OptionsPanel from '../../controls/OptionsPanel.vue';
import RangeField from '../../controls/RangeField.vue';
import SelectField from '../../controls/SelectField.vue';

/** Colour, width and strength of what is held; of shapes, their filling and line, too. */
const FILLS = [
  { name: 'Straw', color: '#f8ecca' },
  { name: 'Foam', color: '#d9ebe8' },
  { name: 'Sky', color: '#dbe6f5' },
  { name: 'Coral', color: '#f7d9d0' },
  { name: 'White', color: '#ffffff' },
];
const DASHES: { label: string; value: Contents['shape']['dash'] }[] = [
  { label: 'Solid', value: 'solid' },
  { label: 'Dashed', value: 'dashed' },
  { label: 'Dotted', value: 'dotted' },
];
const selection = useSelection();
const composing = useComposing();
const pens = usePens();

const first = computed(() => selection.pieces[0]);
const shape = computed(() => selection.pieces.find((one) => one.kind === 'shape')?.content ?? null);
const color = computed(() => {
  const one = first.value;
  if (one?.kind === 'stroke') return one.pen.color;
  if (one?.kind === 'text') return one.content.style.color;
  return one && 'content' in one && 'color' in one.content ? one.content.color : null;
});
const widthPt = computed(() => {
  const one = first.value;
  return one?.kind === 'stroke' ? one.pen.widthPt : one?.kind === 'shape' ? one.content.widthPt : null;
});
</script>

<template>
  <options-panel v-if="first" name="Looks" :width-px="380">
    <color-dots
      v-if="color"
      label="Colour"
      :colors="pens.palette"
      :model-value="color"
      @update:model-value="selection.recolor"
    />
    <range-field
      v-if="widthPt !== null"
      :model-value="widthPt"
      :min="0.4"
      :max="24"
      :step="0.2"
      @settled="selection.setWidth"
    >
      Width
    </range-field>
    <range-field :model-value="first.opacity" :min="0.1" :max="1" :step="0.05" @settled="selection.fade"
      >Strength</range-field
    >
    <template v-if="shape">
      <n-checkbox
        :checked="shape.fill !== null"
        @update:checked="(filled: boolean) => composing.reshape({ fill: filled ? FILLS[0].color : null })"
      >
        Filled
      </n-checkbox>
      <color-dots
        v-if="shape.fill"
        label="Filling"
        :colors="FILLS"
        :model-value="shape.fill"
        @update:model-value="(fill) => composing.reshape({ fill })"
      />
      <div class="row">
        <span>Line</span>
        <select-field
          label="Line"
          :options="DASHES"
          :model-value="shape.dash"
          @update:model-value="(dash) => composing.reshape({ dash })"
        />
      </div>
      <range-field
        v-if="shape.figure === 'polygon' || shape.figure === 'star'"
        :model-value="shape.sides"
        :min="3"
        :max="12"
        :step="1"
        @settled="(sides: number) => composing.reshape({ sides })"
      >
        {{ shape.figure === 'star' ? 'Points' : 'Sides' }}
      </range-field>
      <n-checkbox :checked="shape.shadow" @update:checked="(shadow: boolean) => composing.reshape({ shadow })">
        Shadow
      </n-checkbox>
    </template>
  </options-panel>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 5rem 1fr;
  gap: 10px;
  align-items: center;
}
</style>
