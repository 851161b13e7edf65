<script setup lang="ts">
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import { IconPlayerPlayFilled } from '@tabler/icons-vue';
import { NButton, NCheckbox, NInputNumber, NRadioButton, NRadioGroup } from 'naive-ui';
import { computed } from 'vue';
import { clockText } from '../../look/time';
import { useLesson } from '../../lesson/lesson';
import { useQuietStretches, type ListedStretch } from './quiet-stretches';
import { useStretch } from '../../trail/stretch';
import { useVoices } from '../../lesson/voices';
import SidePanel from '../../controls/SidePanel.vue';

/** Stretches in which nobody speaks: those with nothing drawn to be closed, those with ink to be quickened. */
const emit = defineEmits<{ close: []; hear: [from: number, to: number] }>();

const quiet = useQuietStretches();
const lesson = useLesson();
const voices = useVoices();
const stretch = useStretch();

const isPauses = computed(() => quiet.sort === 'pauses');
const seconds = (samples: number) => `${samplesToSeconds(samples).toFixed(1)} s`;

function show({ fromSamples, toSamples }: ListedStretch) {
  stretch.ends = { from: fromSamples, to: toSamples };
  emit('hear', fromSamples, toSamples);
}
</script>

<template>
  <side-panel name="Pauses" @close="emit('close')">
    <n-radio-group v-model:value="quiet.sort" aria-label="What is looked for">
      <n-radio-button value="pauses" label="Close the pauses" />
      <n-radio-button value="writing" label="Quicken writing" />
    </n-radio-group>
    <p class="note">
      {{
        isPauses
          ? 'Nobody speaks and nothing is drawn. The time goes; no word and no ink does.'
          : 'Something is written and nobody speaks. It plays faster, without sound.'
      }}
    </p>
    <div class="settings">
      <label>
        At least
        <n-input-number v-model:value="quiet.leastSeconds" class="number" :min="0.5" :max="60" :step="0.5">
          <template #suffix>s</template>
        </n-input-number>
      </label>
      <label v-if="isPauses">
        Of each stays
        <n-input-number v-model:value="quiet.staysSeconds" class="number" :min="0" :max="10" :step="0.1">
          <template #suffix>s</template>
        </n-input-number>
      </label>
      <label v-else>
        So many times faster
        <n-input-number v-model:value="quiet.pace" class="number" :min="2" :max="8" :step="1" :precision="0" />
      </label>
    </div>
    <p v-if="voices.isListening" class="note" role="status">The voice is still being listened to…</p>
    <p v-else-if="quiet.listed.length === 0" class="note" role="status">There is none as long as that.</p>
    <template v-else>
      <n-button
        type="primary"
        size="large"
        :disabled="quiet.chosen.length === 0 || !lesson.isWithServer"
        @click="quiet.apply()"
      >
        {{ isPauses ? 'Close' : 'Quicken' }} {{ quiet.chosen.length }}, save {{ seconds(quiet.savesSamples) }}
      </n-button>
      <ul class="rows" :aria-label="isPauses ? 'Pauses' : 'Silent writing'">
        <li v-for="one in quiet.listed" :key="one.fromSamples" class="row" :class="{ out: one.isExcluded }">
          <n-checkbox
            :checked="!one.isExcluded"
            :aria-label="`From ${clockText(one.fromSamples)}`"
            @update:checked="(is: boolean) => quiet.exclude(one, !is)"
          />
          <span class="time">{{ clockText(one.fromSamples) }}</span>
          <span class="saves">saves {{ seconds(one.savesSamples) }}</span>
          <n-button quaternary :aria-label="`Hear from ${clockText(one.fromSamples)}`" @click="show(one)">
            <template #icon><icon-player-play-filled :size="18" /></template>
          </n-button>
        </li>
      </ul>
    </template>
  </side-panel>
</template>

<style scoped>
.settings {
  display: flex;
  gap: 0.8rem;
}

label {
  display: grid;
  flex: 1;
  gap: 0.25rem;
  align-content: end;
}

.time {
  font-weight: 650;
}

.saves {
  margin-left: auto;
  color: var(--ink-soft);
}

.out .time,
.out .saves {
  text-decoration: line-through;
  opacity: 0.6;
}
</style>
