<script setup lang="ts">
import { useRecording } from './recording';

/** The seconds before a recording, over the page. */
const recording = useRecording();
</script>

<template>
  <div v-if="recording.state === 'counting'" class="countdown" role="status">{{ recording.countdown || '…' }}</div>
</template>

<style scoped>
.countdown {
  position: absolute;
  inset: 0;
  display: grid;
  place-items: center;
  font-size: 9rem;
  font-weight: 700;
  color: var(--kite);
  background: color-mix(in srgb, var(--sail) 65%, transparent);
}
</style>
