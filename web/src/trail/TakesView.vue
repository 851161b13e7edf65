<script setup lang="ts">
import { useRecordingNow } from '../lesson/recording-now';
import { useSteps } from '../lesson/frame/steps';
import { useListening } from './listening';
import TakesPanel from './TakesPanel.vue';

/** The takes beside the page, while nothing is recorded. */
const listening = useListening();
const recording = useRecordingNow();
const { panel } = useSteps();
</script>

<template>
  <takes-panel v-if="panel === 'takes' && recording.isIdle" @close="panel = null" @play="listening.hearFromStart()" />
</template>
