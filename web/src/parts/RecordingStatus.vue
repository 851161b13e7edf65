<script setup lang="ts">
import { computed } from 'vue';
import { clockText, spokenTime } from '../look/time';
import { useRecording } from '../stores/recording';

/** All there is to read while recording: time, level, and what is safe. */
const recording = useRecording();

const level = computed(() => Math.max(0, Math.min(1, (recording.peakDb + 60) / 60)));
const safe = computed(() => {
  if (recording.deviceFull) return 'This device is full: kept on the server only';
  const { upload } = recording;
  if (typeof upload === 'object' && 'waiting' in upload) return `Safe on this device · ${upload.waiting}`;
  if (upload === 'waiting-for-network') return 'Safe on this device · waiting for the network';
  if (upload === 'waiting-for-sign-in') return 'Safe on this device · sign in when you have finished';
  if (recording.secondsToSend > 3) return `Safe on this device · ${recording.secondsToSend} s to send`;
  return 'Safe on this device and on the server';
});
</script>

<template>
  <div class="status" :class="{ paused: recording.state === 'paused' }">
    <span class="light" aria-hidden="true"></span>
    <span class="state">{{ recording.state === 'paused' ? 'Paused' : 'Recording' }}</span>
    <span class="time" role="timer" :aria-label="spokenTime(recording.elapsedSamples)">
      {{ clockText(recording.elapsedSamples) }}
    </span>
    <span v-if="recording.choice !== 'none'" class="meter" role="img" aria-label="Sound level">
      <span class="level" :class="{ hot: recording.peakDb > -1 }" :style="{ transform: `scaleX(${level})` }"></span>
    </span>
    <span v-else class="novoice">without voice</span>
    <span class="safe" role="status">{{ safe }}</span>
  </div>
</template>

<style scoped>
.status {
  display: flex;
  gap: 1rem;
  align-items: center;
  height: 100%;
}

.light {
  width: 16px;
  height: 16px;
  background: var(--kite);
  border-radius: 50%;
}

.paused .light {
  background: transparent;
  border: 3px solid var(--ink-soft);
}

.state {
  min-width: 5.6rem;
  font-weight: 650;
}

.time {
  font-size: 1.5rem;
  font-weight: 650;
  font-variant-numeric: tabular-nums;
}

.meter {
  width: 190px;
  height: 12px;
  overflow: hidden;
  background: var(--sail-deep);
  border-radius: 6px;
}

.level {
  display: block;
  height: 100%;
  background: var(--tail);
  transform-origin: left;
}

.level.hot {
  background: var(--kite);
}

.novoice,
.safe {
  color: var(--ink-soft);
}

.safe {
  margin-left: auto;
}

@media (max-width: 700px) {
  .safe {
    display: none;
  }

  .meter {
    width: 70px;
  }
}
</style>
