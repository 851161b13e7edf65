<script setup lang="ts">
import type { TakePlan } from '@kite-trail/core/trail/plan';
import { programmeLength } from '@kite-trail/core/trail/programme';
import { computed } from 'vue';
import { clockText, spokenTime } from '../look/time';
import { useMeters } from './meters';
import { useMicrophone } from './microphone/microphone';
import { useRecording } from './recording';
import { useOutbox } from '../app/outbox';
import LevelMeter from '../controls/LevelMeter.vue';

/** All there is to read while recording: what, time, level, and what is safe. */
const recording = useRecording();
const meters = useMeters();
const microphone = useMicrophone();
const outbox = useOutbox();

const NAMES: Record<TakePlan['kind'], string> = {
  'carry-on': 'Recording',
  insert: 'Recording',
  retake: 'Retake',
  're-speak': 'New voice',
  're-ink': 'New ink',
};

const name = computed(() => {
  if (recording.state === 'run-up') return 'Run-up';
  return recording.state === 'paused' ? 'Paused' : NAMES[recording.plan.kind];
});
const hasVoice = computed(() => microphone.choice !== 'none' && recording.plan.kind !== 're-ink');
/** How long the stretch was that is done over. */
const ofStretch = computed(() =>
  'replaced' in recording.plan ? ` / ${clockText(programmeLength(recording.plan.replaced))}` : '',
);
const safe = computed(() => {
  if (outbox.isFull) return 'This device is full: kept on the server only';
  const { waitsFor } = outbox.status;
  if (waitsFor?.for === 'school') return `Safe here · ${waitsFor.message}`;
  if (waitsFor?.for === 'network') return 'Safe here · waiting for the network';
  if (waitsFor?.for === 'sign-in') return 'Safe here · sign in when you have finished';
  if (outbox.secondsToSend > 3) return `Safe here · ${outbox.secondsToSend} s to send`;
  return 'Safe here and on the server';
});
</script>

<template>
  <div class="status" :class="recording.state">
    <span class="light" aria-hidden="true"></span>
    <span class="state">{{ name }}</span>
    <span v-if="recording.state === 'run-up'" class="soon" role="status">
      Yours in <b class="count">{{ recording.countdown }}</b>
    </span>
    <template v-else>
      <span class="time" role="timer" :aria-label="spokenTime(meters.elapsedSamples)">
        {{ clockText(meters.elapsedSamples) }}<span class="of">{{ ofStretch }}</span>
      </span>
      <span class="page" :aria-label="`On this page ${spokenTime(meters.pageSamples)}`">
        page {{ clockText(meters.pageSamples) }}
      </span>
      <level-meter v-if="hasVoice" class="meter" :peak-db="meters.peakDb" />
      <span v-else class="novoice">without voice</span>
      <span class="safe" role="status">{{ safe }}</span>
    </template>
  </div>
</template>

<style scoped>
.status {
  display: flex;
  gap: 1rem;
  align-items: center;
  height: 100%;
  white-space: nowrap;
}

.light {
  width: 16px;
  height: 16px;
  background: var(--kite);
  border-radius: 50%;
}

.run-up .light {
  background: var(--tail);
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

.page {
  font-variant-numeric: tabular-nums;
}

.meter {
  flex: none;
  width: 120px;
}

.count {
  font-size: 1.5rem;
}

.of {
  font-size: 1rem;
  font-weight: 400;
}

.of,
.soon,
.page,
.novoice,
.safe {
  color: var(--ink-soft);
}

.safe {
  margin-left: auto;
}

@media (max-width: 700px) {
  .safe,
  .page {
    display: none;
  }

  .meter {
    width: 70px;
  }
}
</style>
