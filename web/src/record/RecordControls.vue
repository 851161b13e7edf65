<script setup lang="ts">
import { NButton } from 'naive-ui';
import SelectField from '../controls/SelectField.vue';
import {
  IconHandStop,
  IconMicrophone,
  IconPlayerPauseFilled,
  IconPlayerPlayFilled,
  IconPlayerRecordFilled,
  IconPlayerStopFilled,
} from '@tabler/icons-vue';
import { ref } from 'vue';
import { useDress } from '../lesson/frame/dress';
import { useOtherWindows } from '../lesson/other-windows';
import { useMicrophone } from './microphone/microphone';
import { useOldInk } from './old-ink';
import { useRecordHere } from './record-here';
import { useRecording } from './recording';
import MicrophoneCheck from './microphone/MicrophoneCheck.vue';

/** The one button that records, and what it becomes. */
defineProps<{
  /** The microphone can be chosen and checked here. */
  canCheck?: boolean;
}>();

const dress = useDress();
const recording = useRecording();
const microphone = useMicrophone();
const others = useOtherWindows();
const here = useRecordHere();
const oldInk = useOldInk();
const isChecking = ref(false);

const SOURCES = [
  { value: 'microphone', label: 'Microphone' },
  { value: 'simulated', label: 'Stand-in voice' },
  { value: 'none', label: 'Without voice' },
] as const;
</script>

<template>
  <div v-if="dress.may('voice')" class="controls" role="group" aria-label="Recording">
    <template v-if="recording.isOn">
      <button v-if="recording.state === 'recording'" class="big quiet" @click="recording.pause()">
        <icon-player-pause-filled :size="24" /> Pause
      </button>
      <button v-else class="big record" @click="recording.resume()">
        <icon-player-record-filled :size="24" /> Resume
      </button>
      <n-button
        v-if="recording.isMicrophoneLost && microphone.deviceId !== ''"
        class="check"
        quaternary
        @click="recording.resumeWithAnother()"
      >
        <template #icon><icon-microphone :size="20" stroke="1.75" /></template>Use another one
      </n-button>
      <button
        v-if="recording.plan.kind === 're-speak'"
        class="big quiet"
        :aria-pressed="oldInk.waits"
        @click="recording.holdInk()"
      >
        <template v-if="oldInk.waits"><icon-player-play-filled :size="24" /> Ink on</template>
        <template v-else><icon-hand-stop :size="24" /> Hold ink</template>
      </button>
      <button class="big quiet" @click="recording.stop()"><icon-player-stop-filled :size="24" /> Stop</button>
    </template>
    <button v-else-if="recording.isStarting" class="big quiet" @click="recording.cancel()">Cancel</button>
    <button v-else-if="recording.state === 'ending'" class="big quiet" disabled>Keeping…</button>
    <template v-else>
      <button class="big record" :aria-label="here.what.name" :disabled="others.isRecording" @click="here.record()">
        <icon-player-record-filled :size="24" /> {{ here.what.label }}
      </button>
      <select-field v-model="microphone.choice" label="Voice from" :options="SOURCES" />
      <n-button
        v-if="canCheck"
        class="check"
        quaternary
        title="Choose and check the microphone"
        @click="isChecking = true"
      >
        <template #icon><icon-microphone :size="20" stroke="1.75" /></template>Check it
      </n-button>
    </template>
    <microphone-check v-model:open="isChecking" />
  </div>
</template>

<style scoped>
.controls {
  display: grid;
  gap: 8px;
}

.big {
  display: flex;
  gap: 6px;
  align-items: center;
  justify-content: center;
  min-height: 56px;
  white-space: nowrap;
  font-size: 1.1rem;
  font-weight: 650;
  cursor: pointer;
  border: 2px solid transparent;
  border-radius: 14px;
}

.record {
  color: var(--on-record);
  background: var(--record);
}

.record:hover:not(:disabled) {
  background: var(--kite-deep);
}

.record:disabled {
  cursor: default;
  opacity: 0.45;
}

.quiet {
  background: var(--paper);
  border-color: var(--line);
}

.quiet:hover:not(:disabled) {
  border-color: var(--ink-soft);
}

.quiet[aria-pressed='true'] {
  background: var(--straw-pale);
  border-color: var(--straw);
}

.check {
  min-height: 44px;
}

/* A phone held upright: all in one row. */
@media (max-width: 640px) {
  .controls {
    grid-auto-columns: minmax(0, auto);
    grid-auto-flow: column;
  }

  .check {
    padding: 0 4px;
  }
}
</style>
