<script setup lang="ts">
import { POINTERS, type Pointer } from '@kite-trail/core/lesson/mark';
import { IconArrowUpLeft, IconBulb, IconPoint, IconZoom } from '@tabler/icons-vue';
import type { Component } from 'vue';
import { usePens } from '../stores/pens';
import ChoiceTile from './ChoiceTile.vue';
import ColorDots from './ColorDots.vue';

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
  <section class="panel" aria-label="Pointer">
    <div class="tiles">
      <choice-tile
        v-for="one in POINTERS"
        :key="one"
        :name="LOOKS[one].name"
        :chosen="pens.pointer.pointer === one"
        @click="pens.pointer.pointer = one"
      >
        <component :is="LOOKS[one].icon" :size="28" stroke="1.5" />
      </choice-tile>
    </div>
    <color-dots v-model="pens.pointer.color" label="Colour of the pointer" :colors="pens.palette" />
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 14px;
  width: min(360px, 86vw);
}

.tiles {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 6px;
}
</style>
