<script setup lang="ts">
import { POINTERS, type Pointer } from '@kite-trail/core/lesson/mark';
import { IconArrowUpLeft, IconBulb, IconPoint, IconZoom } from '@tabler/icons-vue';
import type { Component } from 'vue';
import { usePens } from './pens';
import ChoiceTile from '../../controls/ChoiceTile.vue';
import ColorDots from '../../controls/ColorDots.vue';
import OptionsPanel from '../../controls/OptionsPanel.vue';
import TileGrid from '../../controls/TileGrid.vue';

/** What the teacher points with. It leaves no ink, and viewers see it. */
const LOOKS: Record<Pointer, { name: string; icon: Component }> = {
  dot: { name: 'Dot', icon: IconPoint },
  arrow: { name: 'Arrow', icon: IconArrowUpLeft },
  spotlight: { name: 'Spotlight', icon: IconBulb },
  magnifier: { name: 'Magnifier', icon: IconZoom },
};
const pens = usePens();
</script>

<template>
  <options-panel name="Pointer" :width-px="400">
    <tile-grid>
      <choice-tile
        v-for="one in POINTERS"
        :key="one"
        :name="LOOKS[one].name"
        :chosen="pens.pointer.pointer === one"
        @click="pens.pointer.pointer = one"
      >
        <component :is="LOOKS[one].icon" :size="28" stroke="1.5" />
      </choice-tile>
    </tile-grid>
    <color-dots v-model="pens.pointer.color" label="Colour of the pointer" :colors="pens.palette" />
  </options-panel>
</template>
