<script setup lang="ts">
import { IconArrowBackUp, IconArrowForwardUp } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { shallowRef, watch } from 'vue';
import { useEditing } from '../lesson/edition/editing';
import { useLesson } from '../lesson/lesson';
import { painted } from '../device/painted';
import { useTrimming } from './trimming';
import PlayheadTools from './PlayheadTools.vue';
import { useRehearsedEdits } from './rehearsed-edits';
import StretchTools from './StretchTools.vue';
import TrailBar from '../trail/TrailBar.vue';

/** What can be done to the trail: at the playhead, or to the stretch that is chosen. */
defineProps<{ playhead: number; kept: { from: number; to: number } | null }>();
const emit = defineEmits<{ seek: [samples: number]; hear: [from: number, to: number] }>();

const lesson = useLesson();
const editing = useEditing();
const trimming = useTrimming();
useRehearsedEdits();

/** The stretch whose tools are seen. They go once an edit is on screen: to lay other buttons out first would hold it up. */
const handled = shallowRef(trimming.chosen);
watch(
  () => trimming.chosen,
  async (now) => {
    if (!now) await painted();
    handled.value = trimming.chosen;
  },
);

const go = (samples: number) => emit('seek', samples);
const hear = (from: number, to: number) => emit('hear', from, to);
</script>

<template>
  <trail-bar name="Trim">
    <span v-if="!lesson.isWithServer" class="told" role="status">
      The recording is on its way to the server; then it can be trimmed.
    </span>
    <!-- Every cut changes from one to the other, and must not wait for their buttons to be made. -->
    <keep-alive v-else>
      <stretch-tools v-if="handled" :chosen="handled" :playhead="playhead" @seek="go" @hear="hear" />
      <playhead-tools v-else :playhead="playhead" :length="lesson.lengthSamples" :kept="kept" @seek="go" @hear="hear" />
    </keep-alive>
    <span class="steps" role="group" aria-label="Edits">
      <n-button :disabled="!editing.canUndo" aria-label="Undo edit" @click="editing.undo()">
        <icon-arrow-back-up :size="22" />
      </n-button>
      <n-button :disabled="!editing.canRedo" aria-label="Redo edit" @click="editing.redo()">
        <icon-arrow-forward-up :size="22" />
      </n-button>
    </span>
  </trail-bar>
</template>

<style scoped>
.steps {
  display: flex;
  gap: 0.4rem;
  margin-left: auto;
}
</style>
