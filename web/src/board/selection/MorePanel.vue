<script setup lang="ts">
import {
  IconArrowsHorizontal,
  IconArrowsMaximize,
  IconArrowsVertical,
  IconCoins,
  IconLock,
  IconScribble,
  IconZoomScan,
} from '@tabler/icons-vue';
import { computed } from 'vue';
import { useSelection } from './selection';
import ActionButton from '../../controls/ActionButton.vue';

/** What few want done with what is held. */
const emit = defineEmits<{ done: [] }>();

const selection = useSelection();
const handsOut = computed(() => selection.pieces.every((one) => one.handsOut));

function act(what: () => void) {
  what();
  emit('done');
}
</script>

<template>
  <section class="rows" aria-label="More">
    <action-button
      name="Look closer"
      title="See what is held as large as it can be"
      :icon="IconZoomScan"
      named
      @click="act(() => selection.lookCloser())"
    />
    <template v-if="selection.picture">
      <action-button
        name="Fit the width"
        :icon="IconArrowsHorizontal"
        named
        @click="act(() => selection.fit('width'))"
      />
      <action-button
        name="Fit the height"
        :icon="IconArrowsVertical"
        named
        @click="act(() => selection.fit('height'))"
      />
      <action-button name="Fit the page" :icon="IconArrowsMaximize" named @click="act(() => selection.fit('page'))" />
      <action-button
        name="Take the ink along"
        title="Take the ink on it along"
        :icon="IconScribble"
        named
        @click="act(() => selection.takeInkOn())"
      />
    </template>
    <action-button
      name="Hands out copies"
      title="Dragged, it hands out copies of itself"
      :icon="IconCoins"
      :pressed="handsOut"
      named
      @click="act(() => selection.setHandsOut(!handsOut))"
    />
    <action-button
      name="Lock"
      title="Lock: writing never moves it"
      :icon="IconLock"
      named
      @click="act(() => selection.lock(true))"
    />
  </section>
</template>

<style scoped>
.rows {
  display: grid;
  gap: 4px;
  justify-items: start;
}
</style>
