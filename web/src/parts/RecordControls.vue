<script setup lang="ts">
import { IconPlayerPauseFilled, IconPlayerRecordFilled, IconPlayerStopFilled } from '@tabler/icons-vue';
import { useRecording } from '../stores/recording';

/** The one button that records, and what it becomes. */
const recording = useRecording();

const SOURCES = [
  { value: 'microphone', label: 'Microphone' },
  { value: 'simulated', label: 'Simulated microphone' },
  { value: 'none', label: 'Without voice' },
] as const;
</script>

<template>
  <div class="controls" role="group" aria-label="Recording">
    <template v-if="recording.isOn">
      <button v-if="recording.state === 'recording'" class="big quiet" @click="recording.pause()">
        <icon-player-pause-filled :size="24" /> Pause
      </button>
      <button v-else class="big record" @click="recording.resume()">
        <icon-player-record-filled :size="24" /> Resume
      </button>
      <button class="big quiet" @click="recording.stop()"><icon-player-stop-filled :size="24" /> Stop</button>
    </template>
    <button v-else-if="recording.state === 'counting'" class="big quiet" @click="recording.cancelCountdown()">
      Cancel
    </button>
    <button v-else-if="recording.state === 'ending'" class="big quiet" disabled>Keeping…</button>
    <template v-else>
      <button class="big record" aria-label="Record this lesson" @click="recording.start()">
        <icon-player-record-filled :size="24" /> Record
      </button>
      <label class="source">
        <span class="visually-hidden">Voice from</span>
        <select v-model="recording.choice" class="select">
          <option v-for="one in SOURCES" :key="one.value" :value="one.value">{{ one.label }}</option>
        </select>
      </label>
    </template>
  </div>
</template>

<style scoped>
.controls {
  display: grid;
  gap: 8px;
}

.big {
  display: flex;
  gap: 8px;
  align-items: center;
  justify-content: center;
  min-height: 56px;
  font-size: 1.1rem;
  font-weight: 650;
  cursor: pointer;
  border: 2px solid transparent;
  border-radius: 14px;
}

.record {
  color: #fff;
  background: #c93f22;
}

.record:hover {
  background: var(--kite-deep);
}

.quiet {
  background: var(--paper);
  border-color: var(--line);
}

.quiet:hover:not(:disabled) {
  border-color: var(--ink-soft);
}
</style>
