<script setup lang="ts">
import {
  IconCheck,
  IconCopy,
  IconCopyPlus,
  IconCrop,
  IconDots,
  IconLassoPolygon,
  IconLink,
  IconLockOpen,
  IconPalette,
  IconPencil,
  IconRestore,
  IconStack2,
  IconTextRecognition,
  IconTrash,
  IconX,
} from '@tabler/icons-vue';
import { computed, reactive } from 'vue';
import { useClipboard } from './clipboard';
import { useComposing } from '../composing/composing';
import { useReading } from '../handwriting/handwriting';
import { onPageTouched } from '../page-touched';
import { useSelection } from './selection';
import ActionButton from '../../controls/ActionButton.vue';
import BarPanel from '../../controls/BarPanel.vue';
import ArrangePanel from './ArrangePanel.vue';
import LinkPanel from './LinkPanel.vue';
import StylePanel from './StylePanel.vue';
import MorePanel from './MorePanel.vue';
import TextOptions from '../composing/TextOptions.vue';

/** What can be done with what is held. What few want waits in panels, by its name. */
const props = defineProps<{ isQuiet: boolean }>();

const selection = useSelection();
const clipboard = useClipboard();
const composing = useComposing();
const reading = useReading();
const open = reactive({ looks: false, arrange: false, link: false, more: false });
const closeAll = () => Object.assign(open, { looks: false, arrange: false, link: false, more: false });
onPageTouched(closeAll);

const isCut = computed(() => {
  if (!selection.picture) return false;
  const { crop, cutOut } = selection.picture;
  return cutOut.length > 0 || crop.left > 0 || crop.top > 0 || crop.right < 1 || crop.bottom < 1;
});
const hasText = computed(() =>
  selection.pieces.some((one) => one.kind === 'text' || (one.kind === 'shape' && one.content.label)),
);
/** Beside what text looks like there is no room for words. */
const isTight = computed(() => props.isQuiet || hasText.value);
const isEditable = computed(() => ['text', 'shape', 'formula', 'plot'].includes(selection.only?.kind ?? ''));
const kindName = computed(() => (selection.picture ? 'Picture' : 'What is held'));
</script>

<template>
  <div class="bar" role="toolbar" :aria-label="kindName">
    <action-button v-if="selection.isLocked" name="Unlock" :icon="IconLockOpen" named @click="selection.lock(false)" />
    <template v-else-if="selection.doing === 'cropping'">
      <action-button name="Crop to this" :icon="IconCheck" named @click="selection.crop()" />
      <action-button name="Leave as it was" :icon="IconX" named @click="selection.doing = 'moving'" />
    </template>
    <template v-else>
      <template v-if="selection.picture">
        <action-button
          name="Crop"
          :icon="IconCrop"
          :named="!isTight"
          :bordered="!isTight"
          @click="selection.startCrop()"
        />
        <action-button
          name="Cut out"
          title="Cut out along a line"
          :icon="IconLassoPolygon"
          :named="!isTight"
          :bordered="!isTight"
          @click="selection.doing = 'cutting'"
        />
        <action-button
          v-if="isCut"
          name="Show all of it"
          :icon="IconRestore"
          :named="!isTight"
          :bordered="!isTight"
          @click="selection.uncut()"
        />
      </template>
      <text-options v-if="hasText" />
      <action-button
        v-if="isEditable"
        name="Change"
        :icon="IconPencil"
        :named="!isTight"
        :bordered="!isTight"
        @click="selection.only && composing.open(selection.only)"
      />
      <action-button
        v-if="reading.canRead"
        name="Read the writing"
        title="Turn writing into text or exact figures"
        :icon="IconTextRecognition"
        :named="!isTight"
        :bordered="!isTight"
        @click="reading.open()"
      />
      <bar-panel v-model:open="open.looks" name="Looks" :icon="IconPalette" :is-quiet="isTight"
        ><style-panel
      /></bar-panel>
      <bar-panel v-model:open="open.arrange" name="Arrange" :icon="IconStack2" :is-quiet="isTight">
        <arrange-panel @done="closeAll" />
      </bar-panel>
      <bar-panel v-model:open="open.link" name="Link" :icon="IconLink" :is-quiet="isTight"><link-panel /></bar-panel>
      <bar-panel v-model:open="open.more" name="More" :icon="IconDots" :is-quiet="isTight">
        <more-panel @done="closeAll" />
      </bar-panel>
      <span class="gap"></span>
      <action-button name="Duplicate" :icon="IconCopyPlus" @click="selection.duplicate()" />
      <action-button name="Copy" title="Copy, to paste on any page" :icon="IconCopy" @click="clipboard.copy()" />
      <action-button name="Remove" :icon="IconTrash" @click="selection.lift()" />
    </template>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex: 1 1 auto;
  gap: 4px;
  align-items: center;
  min-width: 0;
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
