<script setup lang="ts">
import { NButton } from 'naive-ui';
import { useAudition } from './audition';
import TrailBar from './TrailBar.vue';

/** Something else than the trail is heard. */
const audition = useAudition();
</script>

<template>
  <trail-bar v-if="audition.other" name="Listening">
    <span class="told" role="status">You hear {{ audition.other.name }}.</span>
    <n-button @click="audition.end()">Back to the trail</n-button>
  </trail-bar>
</template>
