<script setup lang="ts">
import { onMounted, watch } from 'vue';
import PageBar from '../page-bar/PageBar.vue';
import { useLesson } from '../lesson/lesson';
import { useRecordingNow } from '../lesson/recording-now';
import { useSteps } from '../lesson/frame/steps';
import { useListening } from '../trail/listening';
import TrailRow from '../trail/TrailRow.vue';
import TrailSection from '../trail/TrailSection.vue';
import TrailStrip from '../trail/TrailStrip.vue';

/** The pages are prepared, before they are recorded or between takes. */
const lesson = useLesson();
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
  <trail-row v-if="lesson.lengthSamples > 0" @toggle="play">
    <trail-strip
      :picture="listening.picture"
      :playhead="listening.samples"
      :ends="null"
      between="stretch"
      @seek="listening.seek"
    />
  </trail-row>
  <trail-section v-else size="slim"><page-bar /></trail-section>
</template>
