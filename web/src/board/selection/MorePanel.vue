<script setup lang="ts">
import {
  IconArrowsHorizontal,
  IconArrowsMaximize,
  IconArrowsVertical,
  IconBorderCorners,
  IconCoins,
  IconLock,
  IconPerspective,
  IconScribble,
  IconZoomScan,
} from '@tabler/icons-vue';
import { computed } from 'vue';
import { useStraightening } from '../../bring-in/straightening';
import { useSelection } from './selection';
import ActionButton from '../../controls/ActionButton.vue';
import ActionRows from './ActionRows.vue';

/** What few want done with what is held. */
defineEmits<{ done: [] }>();

const selection = useSelection();
const straightening = useStraightening();
const handsOut = computed(() => selection.pieces.every((one) => one.handsOut));
</script>

<template>
  <section aria-label="More">
    <action-rows @done="$emit('done')">
      <action-button
        name="Look closer"
        title="See what is held as large as it can be"
        :icon="IconZoomScan"
        named
        @click="selection.lookCloser()"
      />
      <template v-if="selection.picture">
        <action-button
          name="Straighten the sheet"
          title="Make of a photographed sheet of paper one that lies straight, evenly lit"
          :icon="IconPerspective"
          :disabled="straightening.isStraightening"
          named
          @click="straightening.straighten()"
        />
        <action-button
          name="Straighten by its corners"
          title="Say where the corners of a photographed sheet are"
          :icon="IconBorderCorners"
          :disabled="straightening.isStraightening"
          named
          @click="straightening.placeCorners()"
        />
        <action-button name="Fit the width" :icon="IconArrowsHorizontal" named @click="selection.fit('width')" />
        <action-button name="Fit the height" :icon="IconArrowsVertical" named @click="selection.fit('height')" />
        <action-button name="Fit the page" :icon="IconArrowsMaximize" named @click="selection.fit('page')" />
        <action-button
          name="Take the ink along"
          title="Take the ink on it along"
          :icon="IconScribble"
          named
          @click="selection.carryInk()"
        />
      </template>
      <action-button
        name="Hands out copies"
        title="Dragged, it hands out copies of itself"
        :icon="IconCoins"
        :pressed="handsOut"
        named
        @click="selection.setHandsOut(!handsOut)"
      />
      <action-button
        name="Lock"
        title="Lock: writing never moves it"
        :icon="IconLock"
        named
        @click="selection.lock(true)"
      />
    </action-rows>
  </section>
</template>
