<script setup lang="ts">
import {
  IconArrowAutofitContent,
  IconCamera,
  IconNotebook,
  IconPhotoPlus,
  IconRuler2,
  IconScreenShare,
  IconTriangleSquareCircle,
} from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useBringIn } from '../bring-in/bring-in';
import { useDress } from '../lesson/frame/dress';
import { useRecordingNow } from '../lesson/recording-now';
import { useFiles } from '../lesson/files';
import { useComposing } from '../board/composing/composing';
import { useSelection } from '../board/selection/selection';
import { usePens } from '../board/pens/pens';
import { useSheetPictures } from '../bring-in/sheet-pictures';
import BarPanel from '../controls/BarPanel.vue';
import CameraDialog from '../bring-in/CameraDialog.vue';
import { onPageTouched } from '../board/page-touched';
import { useMediaQuery } from '@vueuse/core';
import MeasurePanel from '../board/measuring/MeasurePanel.vue';
import PaperPanel from '../pages/PaperPanel.vue';
import AddPanel from '../board/composing/AddPanel.vue';
import HoldBar from '../board/selection/HoldBar.vue';
import SelectionBar from '../board/selection/SelectionBar.vue';
import TextOptions from '../board/composing/TextOptions.vue';
import SizePanel from '../pages/SizePanel.vue';
import ViewControls from '../board/ViewControls.vue';
import WorkProgress from '../controls/WorkProgress.vue';

/** What pages are made of, and what is done with what is held. While recording, and on a small screen, signs stand for words. */
const props = defineProps<{ quiet?: boolean }>();

const ACCEPTED = 'application/pdf,image/png,image/jpeg,image/webp,image/gif,image/avif,image/svg+xml,.inkml';

const isNarrow = useMediaQuery('(max-width: 900px)');
const bringIn = useBringIn();
const recording = useRecordingNow();
const files = useFiles();
const selection = useSelection();
const composing = useComposing();
const pens = usePens();
const sheetPictures = useSheetPictures();
/** What can be done with what is held stands in the bar, beside signs for what pages are made of. */
const isHolding = computed(() => selection.pieces.length > 0 && !composing.typing);
const isQuiet = computed(() => props.quiet || isNarrow.value || isHolding.value || pens.held === 'text');
const picker = ref<HTMLInputElement>();
const paperOpen = ref(false);
const sizeOpen = ref(false);
const addOpen = ref(false);
const measureOpen = ref(false);
const cameraOpen = ref(false);
const dress = useDress();
const canTakeScreens = 'getDisplayMedia' in (navigator.mediaDevices ?? {}) && dress.now.wearer !== 'student';

onPageTouched(() => (paperOpen.value = sizeOpen.value = addOpen.value = measureOpen.value = false));
watch([paperOpen, sizeOpen], (now) => now.includes(true) && recording.pause());

function pick() {
  recording.pause();
  picker.value?.click();
}

function picked() {
  const chosen = [...(picker.value?.files ?? [])];
  picker.value!.value = '';
  void bringIn.bring(chosen);
}
</script>

<template>
  <div class="prepare" role="group" aria-label="Prepare">
    <selection-bar v-if="isHolding" class="start" :is-quiet="props.quiet || isNarrow" />
    <div v-else-if="sheetPictures.done !== null" class="progress">
      <work-progress label="Sending the PDF" :done="sheetPictures.done" />
      <n-button quaternary title="The rest is sent when you share" @click="sheetPictures.stop()">Not now</n-button>
    </div>
    <div v-else-if="bringIn.opening" class="progress">
      <span role="status">Opening {{ bringIn.opening.name }}…</span>
      <n-button quaternary @click="bringIn.dismiss()">Cancel</n-button>
    </div>
    <span v-else-if="files.isSending" class="note" role="status">Sending…</span>
    <text-options v-else-if="pens.held === 'text'" class="start" />
    <hold-bar v-else-if="pens.held === 'hold'" class="start" />
    <span v-else-if="!isQuiet && dress.may('pictures')" class="note hint">Or drop files here.</span>
    <input
      ref="picker"
      class="visually-hidden"
      type="file"
      multiple
      :accept="ACCEPTED"
      tabindex="-1"
      aria-label="Pictures and PDFs"
      @change="picked"
    />
    <view-controls v-if="!isHolding" />
    <template v-if="dress.may('pictures')">
      <n-button aria-label="Picture or PDF" :quaternary="isQuiet" @click="pick">
        <template #icon><icon-photo-plus :size="20" /></template>
        <template v-if="!isQuiet">Picture or PDF</template>
      </n-button>
      <n-button aria-label="Camera" :quaternary="isQuiet" @click="cameraOpen = true">
        <template #icon><icon-camera :size="20" /></template>
        <template v-if="!isQuiet">Camera</template>
      </n-button>
      <n-button v-if="canTakeScreens" aria-label="Screen" :quaternary="isQuiet" @click="bringIn.takeScreen()">
        <template #icon><icon-screen-share :size="20" /></template>
        <template v-if="!isQuiet">Screen</template>
      </n-button>
      <camera-dialog v-model:open="cameraOpen"
    /></template>
    <bar-panel v-model:open="addOpen" name="Text and shapes" :icon="IconTriangleSquareCircle" :is-quiet="isQuiet">
      <add-panel @done="addOpen = false" />
    </bar-panel>
    <bar-panel v-model:open="measureOpen" name="Measure" :icon="IconRuler2" :is-quiet="isQuiet">
      <measure-panel />
    </bar-panel>
    <bar-panel
      v-if="dress.now.wearer !== 'student'"
      v-model:open="paperOpen"
      name="Paper"
      :icon="IconNotebook"
      :is-quiet="isQuiet"
    >
      <paper-panel v-if="paperOpen" @done="paperOpen = false" />
    </bar-panel>
    <bar-panel v-model:open="sizeOpen" name="Size and room" :icon="IconArrowAutofitContent" :is-quiet="isQuiet">
      <size-panel />
    </bar-panel>
  </div>
</template>

<style scoped>
.prepare {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  justify-content: safe flex-end;
  height: 44px;
  overflow-x: auto;
}

.start {
  margin-right: auto;
}

.note {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  margin-right: auto;
  color: var(--ink-soft);
}

.hint {
  flex: 1 1 0;
}

@media (max-width: 1250px) {
  .hint {
    visibility: hidden;
  }
}

/* A phone held upright: all signs side by side. */
@media (max-width: 640px) {
  .prepare {
    gap: 2px;
  }
}

.progress {
  display: flex;
  gap: 0.8rem;
  align-items: center;
  width: min(420px, 40%);
  white-space: nowrap;
  margin-right: auto;
}
</style>
