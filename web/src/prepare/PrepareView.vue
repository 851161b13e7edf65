<script setup lang="ts">
import { onMounted, watch } from 'vue';
import PageBar from '../page-bar/PageBar.vue';
import { useRecordingNow } from '../lesson/recording-now';
import { useSteps } from '../lesson/frame/steps';
import { useListening } from '../trail/listening';
import ListenRow from '../trail/ListenRow.vue';

/** The pages are prepared, before they are recorded or between takes. */
const listening = useListening();
const recording = useRecordingNow();
const steps = useSteps();

// Whoever prepares stops listening, and goes on where the trail ends.
onMounted(listening.leave);
watch(
  () => recording.state,
  (now) => now === 'counting' && void steps.go('record'),
);

async function play() {
  await steps.go('trim');
  listening.toggle();
}
</script>

<template>
  <listen-row @toggle="play"><page-bar /></listen-row>
</template>
