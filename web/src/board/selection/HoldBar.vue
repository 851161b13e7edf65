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
      :pressed="pens.takesBy === 'loop'"
      @click="pens.takesBy = 'loop'"
    />
    <action-button
      name="Draw a box"
      :icon="IconMarquee2"
      :pressed="pens.takesBy === 'box'"
      @click="pens.takesBy = 'box'"
    />
    <action-button name="Take everything" :icon="IconSelectAll" @click="selection.takeEverything()" />
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
