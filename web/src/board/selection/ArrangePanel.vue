<script setup lang="ts">
import type { Alignment } from '@kite-trail/core/lesson/arrange';
import {
  IconBoxMultiple,
  IconFlipHorizontal,
  IconLayoutAlignBottom,
  IconLayoutAlignCenter,
  IconLayoutAlignLeft,
  IconLayoutAlignMiddle,
  IconLayoutAlignRight,
  IconLayoutAlignTop,
  IconLayoutDistributeHorizontal,
  IconLayoutDistributeVertical,
  IconSquaresDiagonal,
  IconStackPop,
  IconStackPush,
} from '@tabler/icons-vue';
import type { Component } from 'vue';
import { useSelection } from './selection';
import ActionButton from '../../controls/ActionButton.vue';
import ActionRows from './ActionRows.vue';

/** What lies above what, what belongs together; and of several, in line or the same distance apart. */
defineEmits<{ done: [] }>();

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
  <section class="arrange" aria-label="Arrange">
    <action-rows @done="$emit('done')">
      <action-button name="To the front" :icon="IconStackPop" named @click="selection.restack('front')" />
      <action-button name="To the back" :icon="IconStackPush" named @click="selection.restack('back')" />
      <action-button name="Mirror" :icon="IconFlipHorizontal" named @click="selection.mirror()" />
      <action-button
        v-if="selection.isGrouped"
        name="Ungroup"
        :icon="IconSquaresDiagonal"
        named
        @click="selection.ungroup()"
      />
      <action-button
        v-else-if="selection.pieces.length > 1"
        name="Group"
        :icon="IconBoxMultiple"
        named
        @click="selection.group()"
      />
    </action-rows>
    <div v-if="selection.pieces.length > 1" class="grid">
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
      <action-button
        name="Even gaps down"
        :icon="IconLayoutDistributeHorizontal"
        @click="selection.distribute('down')"
      />
    </div>
  </section>
</template>

<style scoped>
.arrange {
  display: grid;
  gap: 4px;
}

.grid {
  display: grid;
  grid-template-columns: repeat(4, 44px);
  gap: 4px;
}
</style>
