<script setup lang="ts">
import { useLesson } from '../lesson/lesson';
import { useListening } from './listening';
import TrailRow from './TrailRow.vue';
import TrailSection from './TrailSection.vue';
import TrailStrip from './TrailStrip.vue';

/** The trail to be listened to; before there is one, what stands in its place. */
const emit = defineEmits<{ toggle: [] }>();
const lesson = useLesson();
const listening = useListening();
</script>

<template>
  <trail-row v-if="lesson.lengthSamples > 0" @toggle="emit('toggle')">
    <trail-strip
      :picture="listening.picture"
      :playhead="listening.samples"
      :ends="null"
      between="stretch"
      @seek="listening.seek"
    />
  </trail-row>
  <trail-section v-else size="slim">
    <slot><p class="untold">What you record appears here.</p></slot>
  </trail-section>
</template>

<style scoped>
.untold {
  margin: 0;
  color: var(--ink-soft);
}
</style>
