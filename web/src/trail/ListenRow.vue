<script setup lang="ts">
import { useLesson } from '../lesson/lesson';
import { useListening } from './listening';
import TrailRow from './TrailRow.vue';
import TrailSection from './TrailSection.vue';
import TrailStrip from './TrailStrip.vue';

/** The trail to be listened to. */
const lesson = useLesson();
const listening = useListening();
</script>

<template>
  <trail-row v-if="lesson.lengthSamples > 0" @toggle="listening.toggle()">
    <trail-strip
      :picture="listening.picture"
      :playhead="listening.samples"
      :ends="null"
      between="stretch"
      @seek="listening.seek"
    />
  </trail-row>
  <trail-section v-else size="slim"><p class="untold">What you record appears here.</p></trail-section>
</template>

<style scoped>
.untold {
  margin: 0;
  color: var(--ink-soft);
}
</style>
