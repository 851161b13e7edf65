<script setup lang="ts">
import { NButton } from 'naive-ui';
import { useSelection } from '../board/selection/selection';
import PageBar from '../page-bar/PageBar.vue';
import { useLesson } from '../lesson/lesson';
import { useRecordingNow } from '../lesson/recording-now';
import { useSteps } from '../lesson/frame/steps';
import { useAudition } from '../trail/audition';
import { useListening } from '../trail/listening';
import ChooseBar from './ChooseBar.vue';
import { useRecordHere } from './record-here';
import { useDoneOver } from './done-over';
import StretchBar from './StretchBar.vue';

/** What can be done between takes: choose one of two, do a part over, or change the page before the next. */
const lesson = useLesson();
const now = useRecordingNow();
const done = useDoneOver();
const listening = useListening();
const audition = useAudition();
const selection = useSelection();
const here = useRecordHere();
const steps = useSteps();
</script>

<template>
  <template v-if="now.isIdle && lesson.lengthSamples > 0">
    <choose-bar v-if="done.over" @hear="listening.hear" />
    <stretch-bar
      v-else-if="!audition.other && selection.pieces.length === 0"
      class="below"
      :playhead="listening.samples"
      :is-at-end="listening.isAtEnd"
      @to-end="listening.seek(lesson.lengthSamples)"
    >
      <n-button
        :aria-expanded="steps.panel.value === 'takes'"
        @click="steps.panel.value = steps.panel.value === 'takes' ? null : 'takes'"
      >
        Takes
      </n-button>
    </stretch-bar>
    <page-bar v-else-if="!here.isListeningBack" class="below" />
  </template>
</template>

<style scoped>
.below {
  flex: none;
  padding: 0.5rem 1rem 0;
  box-sizing: content-box;
}
</style>
