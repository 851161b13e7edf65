<script setup lang="ts">
import type { Figure } from '@kite-trail/core/lesson/content';
import {
  IconArrowUpRight,
  IconChartLine,
  IconCircle,
  IconHexagon,
  IconLine,
  IconMathFunction,
  IconMessage,
  IconSquare,
  IconStar,
  IconTriangle,
  IconTypography,
} from '@tabler/icons-vue';
import type { Component } from 'vue';
import { useDress } from '../../lesson/frame/dress';
import { useComposing } from './composing';
import { useComposingDialog } from './composing-dialog';
import { usePens } from '../pens/pens';
import ChoiceTile from '../../controls/ChoiceTile.vue';
import OptionsPanel from '../../controls/OptionsPanel.vue';
import RadioField from '../../controls/RadioField.vue';
import TileGrid from '../../controls/TileGrid.vue';

/** What can be put on the page besides ink and pictures. */
const emit = defineEmits<{ done: [] }>();

const FIGURES: { figure: Figure; name: string; icon: Component }[] = [
  { figure: 'line', name: 'Line', icon: IconLine },
  { figure: 'arrow', name: 'Arrow', icon: IconArrowUpRight },
  { figure: 'rectangle', name: 'Rectangle', icon: IconSquare },
  { figure: 'ellipse', name: 'Ellipse', icon: IconCircle },
  { figure: 'triangle', name: 'Triangle', icon: IconTriangle },
  { figure: 'polygon', name: 'Polygon', icon: IconHexagon },
  { figure: 'star', name: 'Star', icon: IconStar },
  { figure: 'callout', name: 'Speech bubble', icon: IconMessage },
];
const WHILE_TYPING = [
  { value: 'pause', label: 'pauses it' },
  { value: 'record', label: 'is recorded, letter by letter' },
] as const;
const dress = useDress();
const composing = useComposing();
const dialog = useComposingDialog();
const pens = usePens();

function take(act: () => void) {
  act();
  emit('done');
}
</script>

<template>
  <options-panel name="Text and shapes" :width-px="400">
    <tile-grid v-if="dress.may('text')">
      <choice-tile name="Text" :chosen="pens.held === 'text'" @click="take(() => (pens.held = 'text'))">
        <icon-typography :size="28" stroke="1.5" />
      </choice-tile>
      <choice-tile name="Formula" :chosen="false" @click="take(() => dialog.begin('formula'))">
        <icon-math-function :size="28" stroke="1.5" />
      </choice-tile>
      <choice-tile name="Curves" :chosen="false" @click="take(() => dialog.begin('plot'))">
        <icon-chart-line :size="28" stroke="1.5" />
      </choice-tile>
    </tile-grid>
    <tile-grid role="group" aria-label="Shapes">
      <choice-tile
        v-for="one in FIGURES"
        :key="one.figure"
        :name="one.name"
        :chosen="pens.held === 'shape' && composing.figure === one.figure"
        @click="take(() => composing.useFigure(one.figure))"
      >
        <component :is="one.icon" :size="28" stroke="1.5" />
      </choice-tile>
    </tile-grid>
    <fieldset v-if="dress.may('text')" class="typing">
      <legend>Typing during a recording</legend>
      <radio-field
        v-model="composing.whileTyping"
        label="Typing during a recording"
        :options="WHILE_TYPING"
        is-column
      />
    </fieldset>
  </options-panel>
</template>

<style scoped>
.typing {
  display: grid;
  gap: 2px;
  padding: 0;
  margin: 0;
  border: 0;
}
</style>
