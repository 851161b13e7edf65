<script setup lang="ts">
import {
  IconArrowsMaximize,
  IconArrowsHorizontal,
  IconArrowsVertical,
  IconBoxMultiple,
  IconCheck,
  IconCoins,
  IconCopy,
  IconCopyPlus,
  IconCrop,
  IconFlipHorizontal,
  IconLassoPolygon,
  IconLayoutAlignLeft,
  IconLink,
  IconLock,
  IconLockOpen,
  IconPalette,
  IconPencil,
  IconRestore,
  IconScribble,
  IconSquaresDiagonal,
  IconStackPop,
  IconStackPush,
  IconTextRecognition,
  IconTrash,
  IconX,
  IconZoomScan,
} from '@tabler/icons-vue';
import { NPopover } from 'naive-ui';
import { computed } from 'vue';
import { useClipboard } from './clipboard';
import { useComposing } from '../composing/composing';
import { useReading } from '../handwriting/handwriting';
import { useSelection } from './selection';
import ActionButton from '../../controls/ActionButton.vue';
import ArrangePanel from './ArrangePanel.vue';
import LinkPanel from './LinkPanel.vue';
import LooksPanel from './LooksPanel.vue';
import TextOptions from '../composing/TextOptions.vue';

/** What can be done with what is held. */
const selection = useSelection();
const clipboard = useClipboard();
const composing = useComposing();
const reading = useReading();

const isCut = computed(() => {
  if (!selection.picture) return false;
  const { crop, cutOut } = selection.picture;
  return cutOut.length > 0 || crop.left > 0 || crop.top > 0 || crop.right < 1 || crop.bottom < 1;
});
const hasText = computed(() =>
  selection.pieces.some((one) => one.kind === 'text' || (one.kind === 'shape' && one.content.label)),
);
const isEditable = computed(() => ['text', 'shape', 'formula', 'plot'].includes(selection.only?.kind ?? ''));
const handsOut = computed(() => selection.pieces.every((one) => one.handsOut));
const hasLink = computed(() => selection.pieces.some(({ link }) => link !== null));
const kindName = computed(() => (selection.picture ? 'Picture' : 'What is held'));
</script>

<template>
  <div class="bar" role="toolbar" :aria-label="kindName">
    <action-button v-if="selection.isLocked" name="Unlock" :icon="IconLockOpen" named @click="selection.lock(false)" />
    <template v-else-if="selection.doing === 'cropping'">
      <action-button name="Crop to this" :icon="IconCheck" named @click="selection.crop()" />
      <action-button name="Leave as it was" :icon="IconX" @click="selection.doing = 'moving'" />
    </template>
    <template v-else>
      <template v-if="selection.picture">
        <action-button name="Crop" :icon="IconCrop" @click="selection.startCrop()" />
        <action-button
          name="Cut out"
          title="Cut out along a line"
          :icon="IconLassoPolygon"
          @click="selection.doing = 'cutting'"
        />
        <action-button v-if="isCut" name="Show all of it" :icon="IconRestore" @click="selection.uncut()" />
        <action-button name="Fit the width" :icon="IconArrowsHorizontal" @click="selection.fit('width')" />
        <action-button name="Fit the height" :icon="IconArrowsVertical" @click="selection.fit('height')" />
        <action-button name="Fit the page" :icon="IconArrowsMaximize" @click="selection.fit('page')" />
        <action-button
          name="Take the ink along"
          title="Take the ink on it along"
          :icon="IconScribble"
          @click="selection.takeInkOn()"
        />
        <span class="gap"></span>
      </template>
      <text-options v-if="hasText" />
      <action-button
        v-if="isEditable"
        name="Change"
        :icon="IconPencil"
        @click="selection.only && composing.open(selection.only)"
      />
      <action-button
        v-if="reading.canRead"
        name="Read the writing"
        title="Turn writing into text or exact figures"
        :icon="IconTextRecognition"
        @click="reading.open()"
      />
      <n-popover trigger="click" placement="bottom">
        <template #trigger>
          <action-button name="Looks" title="Colour, width, strength" :icon="IconPalette" />
        </template>
        <looks-panel />
      </n-popover>
      <n-popover v-if="selection.pieces.length > 1" trigger="click" placement="bottom">
        <template #trigger><action-button name="Arrange" :icon="IconLayoutAlignLeft" /></template>
        <arrange-panel />
      </n-popover>
      <action-button
        v-if="selection.isGrouped"
        name="Ungroup"
        :icon="IconSquaresDiagonal"
        pressed
        @click="selection.ungroup()"
      />
      <action-button
        v-else-if="selection.pieces.length > 1"
        name="Group"
        :icon="IconBoxMultiple"
        @click="selection.group()"
      />
      <action-button name="Mirror" :icon="IconFlipHorizontal" @click="selection.mirror()" />
      <action-button name="To the front" :icon="IconStackPop" @click="selection.restack('front')" />
      <action-button name="To the back" :icon="IconStackPush" @click="selection.restack('back')" />
      <span class="gap"></span>
      <action-button
        name="Look closer"
        title="See what is held as large as it can be"
        :icon="IconZoomScan"
        @click="selection.lookCloser()"
      />
      <action-button name="Duplicate" :icon="IconCopyPlus" @click="selection.duplicate()" />
      <action-button name="Copy" title="Copy, to paste on any page" :icon="IconCopy" @click="clipboard.copy()" />
      <n-popover trigger="click" placement="bottom">
        <template #trigger>
          <action-button name="Link" title="Lead viewers somewhere" :icon="IconLink" :pressed="hasLink" />
        </template>
        <link-panel />
      </n-popover>
      <action-button
        name="Hands out copies"
        title="Dragged, it hands out copies of itself"
        :icon="IconCoins"
        :pressed="handsOut"
        @click="selection.setHandsOut(!handsOut)"
      />
      <action-button name="Lock" title="Lock: writing never moves it" :icon="IconLock" @click="selection.lock(true)" />
      <action-button name="Remove" :icon="IconTrash" @click="selection.lift()" />
    </template>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  gap: 2px;
  align-items: center;
  justify-content: safe flex-end;
  width: 100%;
  overflow-x: auto;
}

.gap {
  flex: none;
  width: 1px;
  height: 26px;
  margin: 0 4px;
  background: var(--line);
}
</style>
