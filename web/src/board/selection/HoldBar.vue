<script setup lang="ts">
import { IconClipboard, IconLasso, IconMarquee2, IconSelectAll } from '@tabler/icons-vue';
import { useClipboard } from './clipboard';
import { usePens } from '../pens/pens';
import { useSelection } from './selection';
import ActionButton from '../../controls/ActionButton.vue';

/** How the hand takes things, while it holds nothing. */
const pens = usePens();
const selection = useSelection();
const clipboard = useClipboard();
</script>

<template>
  <div class="bar" role="toolbar" aria-label="Taking hold">
    <action-button
      name="Draw a loop"
      :icon="IconLasso"
      :pressed="pens.holdsBy === 'loop'"
      @click="pens.holdsBy = 'loop'"
    />
    <action-button
      name="Draw a box"
      :icon="IconMarquee2"
      :pressed="pens.holdsBy === 'box'"
      @click="pens.holdsBy = 'box'"
    />
    <action-button name="Hold all" :icon="IconSelectAll" @click="selection.holdEverything()" />
    <action-button name="Paste" :icon="IconClipboard" :disabled="!clipboard.hasSomething" @click="clipboard.paste()" />
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  gap: 2px;
  align-items: center;
}
</style>
