<script setup lang="ts">
import type { TapDelay } from '@kite-trail/core/sound/tap-delay';
import type { VoiceVerdict } from '@kite-trail/core/sound/voice-check';
import { IconPlayerRecord, IconRefresh } from '@tabler/icons-vue';
import { NButton, NSwitch } from 'naive-ui';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { MicrophoneTrial } from '../../capture/microphone-trial';
import { useMicrophone } from './microphone';
import ProblemText from '../../controls/ProblemText.vue';
import RadioField from '../../controls/RadioField.vue';
import SelectField from '../../controls/SelectField.vue';
import LevelMeter from '../../controls/LevelMeter.vue';
import DialogCard from '../../controls/DialogCard.vue';

/** Before recording: which microphone, how it sounds, how it is treated, and how far it is behind. */
const open = defineModel<boolean>('open', { required: true });

const TRIAL_SECONDS = 3;
const TAPS = 8;
const METER_FALL_DB = 1.5;
const SILENT_DB = -90;

const VERDICTS: Record<VoiceVerdict, { text: string; isGood?: boolean }> = {
  listening: { text: 'Say a sentence, as loud as you will teach.' },
  silent: { text: 'Nothing comes in. Is the microphone muted, or is another one meant?' },
  clipping: { text: 'Too loud: the voice is cut off. Move away, or turn the microphone down.' },
  quiet: { text: 'Too quiet. Come nearer, or turn the microphone up.' },
  noisy: { text: 'The room is noisy. Come nearer, or switch on “Less steady noise”.' },
  good: { text: 'Good: loud enough, and clear of the noise.', isGood: true },
};
const COUNTDOWNS = [
  { value: '0', label: 'None' },
  { value: '3', label: '3 seconds' },
  { value: '5', label: '5 seconds' },
] as const;

const microphone = useMicrophone();
const devices = ref<{ id: string; label: string }[]>([]);
const choices = computed(() => [
  { value: '', label: 'The one the browser prefers' },
  ...devices.value.map(({ id, label }) => ({ value: id, label })),
]);
const trial = shallowRef<MicrophoneTrial | null>(null);
const problem = ref('');
const peakDb = ref(SILENT_DB);
const verdict = ref<VoiceVerdict>('listening');
const trying = ref<'no' | 'recording' | 'playing'>('no');
/** Taps still to come, while the delay is measured. */
const remainingTaps = ref<number | null>(null);
const measured = shallowRef<TapDelay | null>(null);
let tapped: (atMs: number) => void = () => {};
let tries = 0;

const delayTold = computed(() => {
  if (measured.value?.kind === 'too-few') {
    return `Only ${measured.value.taps} taps were heard. Tap so that the microphone hears it, and try again.`;
  }
  if (measured.value?.kind === 'uneven') return 'The taps were heard too unevenly. Try again where it is quieter.';
  if (microphone.delayMs === null) return 'Not measured: what the browser says is believed.';
  return `This microphone is ${Math.round(microphone.delayMs)} ms behind what the browser says; recordings allow for it.`;
});

watch(
  [open, () => microphone.deviceId, () => microphone.echo, () => microphone.noise, () => microphone.choice] as const,
  ([isOpen]) => void (isOpen ? listen() : close()),
);
onBeforeUnmount(close);

function close() {
  tries++;
  trial.value?.close();
  trial.value = null;
  trying.value = 'no';
  remainingTaps.value = measured.value = null;
  peakDb.value = SILENT_DB;
  verdict.value = 'listening';
}

async function listen() {
  close();
  problem.value = '';
  const mine = tries;
  try {
    const opened = await MicrophoneTrial.open({ ...microphone.settings, choice: sourceTried() });
    if (mine !== tries) return opened.close();
    opened.onHeard = (db, told) => {
      peakDb.value = Math.max(db, peakDb.value - METER_FALL_DB);
      verdict.value = told;
    };
    opened.onLost = () => (problem.value = 'The microphone is gone. Plug it in again, then try again.');
    trial.value = opened;
    await listDevices();
  } catch (error) {
    problem.value = (error as Error).message;
  }
}

const sourceTried = () => (microphone.choice === 'simulated' ? 'simulated' : 'microphone');

/** Browsers tell the microphones' names once one of them may be used. */
async function listDevices() {
  const found = await navigator.mediaDevices.enumerateDevices();
  devices.value = found
    .filter(({ kind, deviceId }) => kind === 'audioinput' && deviceId !== 'default')
    .map(({ deviceId, label }, i) => ({ id: deviceId, label: label || `Microphone ${i + 1}` }));
}

async function tryOut() {
  trying.value = 'recording';
  await trial.value?.recordAndPlay(TRIAL_SECONDS, () => (trying.value = 'playing'));
  trying.value = 'no';
}

async function measure() {
  const { value: opened } = trial;
  if (!opened) return;
  measured.value = null;
  remainingTaps.value = TAPS;
  const found = await opened.measureDelay(taps());
  remainingTaps.value = null;
  if (opened !== trial.value) return;
  if (found.kind === 'measured') microphone.keepDelay(found.delayMs);
  measured.value = found;
}

async function* taps(): AsyncGenerator<number> {
  for (let left = TAPS; left > 0; left--) {
    remainingTaps.value = left;
    yield await new Promise<number>((resolve) => (tapped = resolve));
  }
  remainingTaps.value = 0;
}
</script>

<template>
  <dialog-card v-model:show="open" title="Microphone" style="max-width: 34rem">
    <div class="check">
      <div class="field">
        Which one
        <select-field v-model="microphone.deviceId" class="select" label="Which one" :options="choices" />
      </div>
      <div v-if="problem" class="problem">
        <problem-text>{{ problem }}</problem-text>
        <n-button @click="listen">
          <template #icon><icon-refresh :size="20" /></template>Try again
        </n-button>
      </div>
      <template v-else>
        <level-meter class="meter" :peak-db="peakDb">
          <span class="mark" title="Aim at loud words reaching about here"></span>
        </level-meter>
        <p class="verdict" :class="{ good: VERDICTS[verdict].isGood }" role="status">{{ VERDICTS[verdict].text }}</p>
        <n-button :disabled="!trial || trying !== 'no'" @click="tryOut">
          <template #icon><icon-player-record :size="20" /></template>
          {{ { no: 'Record three seconds and hear them', recording: 'Speak…', playing: 'Listen…' }[trying] }}
        </n-button>
      </template>
      <div class="switches">
        <label class="switch">
          <n-switch v-model:value="microphone.echo" checked-value="on" unchecked-value="off" aria-label="Less echo" />
          Less echo <span class="note">for loudspeakers in the room</span>
        </label>
        <label class="switch">
          <n-switch
            v-model:value="microphone.noise"
            checked-value="on"
            unchecked-value="off"
            aria-label="Less steady noise"
          />
          Less steady noise <span class="note">for fans and traffic</span>
        </label>
      </div>
      <fieldset class="field">
        <legend>Countdown</legend>
        <radio-field v-model="microphone.countdown" label="Countdown" :options="COUNTDOWNS" />
      </fieldset>
      <fieldset class="field">
        <legend>Delay</legend>
        <p class="note" role="status">{{ delayTold }}</p>
        <button
          v-if="remainingTaps !== null"
          class="pad"
          :disabled="remainingTaps === 0"
          @pointerdown.prevent="tapped($event.timeStamp)"
          @keydown.space.prevent="!$event.repeat && tapped($event.timeStamp)"
        >
          {{ remainingTaps > 0 ? `Tap here, audibly: ${remainingTaps} more` : 'Listening…' }}
        </button>
        <template v-else>
          <n-button :disabled="!trial" @click="measure">Measure by tapping</n-button>
          <n-button v-if="microphone.delayMs !== null" quaternary @click="microphone.keepDelay(null)">Forget</n-button>
        </template>
      </fieldset>
    </div>
  </dialog-card>
</template>

<style scoped>
.check {
  display: grid;
  gap: 0.9rem;
}

.field {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 1rem;
  align-items: center;
  padding: 0;
  margin: 0;
  border: 0;
}

legend {
  padding: 0;
  margin-bottom: 0.2rem;
  font-weight: 650;
}

.select {
  flex: 1;
  min-width: 12rem;
}

.meter {
  height: 16px;
}

.mark {
  position: absolute;
  top: 0;
  bottom: 0;
  left: 80%;
  width: 3px;
  background: var(--ink);
}

.verdict,
.note {
  margin: 0;
}

.verdict {
  min-height: 1.5em;
  font-weight: 650;
}

.verdict.good {
  color: var(--tail);
}

.note {
  flex-basis: auto;
  color: var(--ink-soft);
}

p.note {
  flex-basis: 100%;
}

.problem {
  display: flex;
  gap: 0.8rem;
  align-items: center;
  justify-content: space-between;
}

.switches {
  display: grid;
  gap: 0.3rem;
}

.switch {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  min-height: 44px;
}

.pad {
  flex: 1 0 100%;
  min-height: 110px;
  font: inherit;
  font-size: 1.15rem;
  font-weight: 650;
  color: inherit;
  touch-action: none;
  cursor: pointer;
  background: var(--straw-pale);
  border: 2px solid var(--straw);
  border-radius: 14px;
}
</style>
