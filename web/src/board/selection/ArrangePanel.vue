<script setup lang="ts">
import type { Alignment } from '@kite-trail/core/lesson/arrange';
import {
  IconLayoutAlignBottom,
  IconLayoutAlignCenter,
  IconLayoutAlignLeft,
  IconLayoutAlignMiddle,
  IconLayoutAlignRight,
  IconLayoutAlignTop,
  IconLayoutDistributeHorizontal,
  IconLayoutDistributeVertical,
} from '@tabler/icons-vue';
import type { Component } from 'vue';
import { useSelection } from './selection';
import ActionButton from '../../controls/ActionButton.vue';

/** Puts things in line, or the same distance apart. */
const ALIGNMENTS: { name: string; to: Alignment; icon: Component }[] = [
  { name: 'Align left', to: 'left', icon: IconLayoutAlignLeft },
  { name: 'Align centres', to: 'center', icon: IconLayoutAlignCenter },
  { name: 'Align right', to: 'right', icon: IconLayoutAlignRight },
  { name: 'Align tops', to: 'top', icon: IconLayoutAlignTop },
  { name: 'Align middles', to: 'middle', icon: IconLayoutAlignMiddle },
  { name: 'Align bottoms', to: 'bottom', icon: IconLayoutAlignBottom },
];
const selection = useSelection();
</script>

<template>
  <section class="grid" aria-label="Arrange">
    <action-button
      v-for="one in ALIGNMENTS"
      :key="one.to"
      :name="one.name"
      :icon="one.icon"
      @click="selection.align(one.to)"
    />
    <action-button
      name="Even gaps across"
      :icon="IconLayoutDistributeVertical"
      @click="selection.distribute('across')"
    />
    <action-button name="Even gaps down" :icon="IconLayoutDistributeHorizontal" @click="selection.distribute('down')" />
  </section>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(4, 44px);
  gap: 4px;
}
</style>
