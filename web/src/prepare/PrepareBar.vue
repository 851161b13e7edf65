<script setup lang="ts">
import PageBar from '../page-bar/PageBar.vue';
import { useLesson } from '../lesson/lesson';

/** Under the trail, once there is one. */
const lesson = useLesson();
</script>

<template>
  <page-bar v-if="lesson.lengthSamples > 0" class="below" />
</template>

<style scoped>
.below {
  flex: none;
  padding: 0.5rem 1rem 0;
  box-sizing: content-box;
}
</style>
