<script setup lang="ts">
import { computed, onBeforeUnmount } from 'vue';
import type { BoardSight } from '../board/board-tool';
import { useLesson } from '../lesson/lesson';
import { useSurface } from '../lesson/surface';
import { useListening } from '../trail/listening';
import { useStretch } from '../trail/stretch';
import TrailEditor from '../trail/TrailEditor.vue';
import TrailRow from '../trail/TrailRow.vue';
import { useInkChoice } from './ink/ink-choice';
import { inkPickingTool } from './ink/ink-picking-tool';
import StepControl from './StepControl.vue';
import { useTrimming } from './trimming';
import ListenRow from '../trail/ListenRow.vue';

/** The trail is edited: its time on the trail itself, its ink on the page. */
const listening = useListening();
const stretch = useStretch();
const trimming = useTrimming();
const ink = useInkChoice();
const surface = useSurface();
const lesson = useLesson();

const lanes = computed(() => ({ chapters: trimming.chapters, cues: trimming.cues, prompts: trimming.prompts }));

const tool = (on: BoardSight) => inkPickingTool(on, ink, () => surface.moment!, listening.seek);
surface.show(() => {
  const moment = lesson.lengthSamples > 0 ? listening.moment : null;
  const chosen = trimming.isOn && moment ? { lit: ink.litIn(moment), tool } : {};
  return { moment, isWriting: false, ...chosen };
});
onBeforeUnmount(() => {
  ink.clear();
  stretch.clear();
});

function chooseStretch(ends: { from: number; to: number } | null) {
  ink.clear();
  stretch.ends = ends;
}

function setEnds(ends: { from: number; to: number }) {
  if (stretch.ends) stretch.ends = ends;
  else trimming.kept = ends;
}
</script>

<template>
  <trail-row v-if="trimming.isOn" is-tall @toggle="listening.toggle()">
    <template #where>
      <step-control v-model="trimming.stepBy" @step="trimming.stepAlong" />
    </template>
    <trail-editor
      :picture="listening.picture"
      :playhead="listening.samples"
      :ends="stretch.ends ?? trimming.kept"
      :between="stretch.ends ? 'stretch' : 'kept'"
      :lanes="lanes"
      @seek="listening.seek"
      @scrub="listening.scrub"
      @ends="setEnds"
      @stretch="chooseStretch"
    />
  </trail-row>
  <listen-row v-else @toggle="listening.toggle()" />
</template>
