<script setup lang="ts">
import { NButton, NCheckbox, NInput, NSpin } from 'naive-ui';
import { computed } from 'vue';
import { usePens } from '../pens/pens';
import { useReading } from './handwriting';
import ProblemText from '../../controls/ProblemText.vue';
import RadioField from '../../controls/RadioField.vue';
import ReadFigures from './ReadFigures.vue';
import ReadLetters from './ReadLetters.vue';
import DialogCard from '../../controls/DialogCard.vue';

/** Shows what was read of the writing that is held, to be put right before it takes the writing's place. */
const reading = useReading();
const pens = usePens();

const kinds = computed(() => [
  { value: 'text' as const, label: 'Text' },
  { value: 'figures' as const, label: 'Exact figures', disabled: reading.figures.length === 0 },
]);
const isReady = computed(() =>
  reading.becomes === 'text'
    ? reading.lettersRead !== null && reading.text.trim() !== ''
    : reading.figures.some(({ stroke }) => !reading.excluded.has(stroke.id)),
);
</script>

<template>
  <dialog-card
    :show="reading.strokes !== null"
    class="reading-dialog"
    title="From writing to type"
    @close="reading.close()"
    @esc="reading.close()"
    @mask-click="reading.close()"
  >
    <form class="form" @submit.prevent="reading.replace()">
      <radio-field v-model="reading.becomes" label="What the writing becomes" :options="kinds" />
      <template v-if="reading.becomes === 'text'">
        <problem-text v-if="reading.problem">{{ reading.problem }}</problem-text>
        <div v-else-if="!reading.lettersRead" class="wait" role="status">
          <n-spin size="small" />
          Reading…
        </div>
        <template v-else>
          <p class="note">Touch a letter that was read wrongly, or mend the text below.</p>
          <read-letters />
          <n-input
            v-model:value="reading.text"
            type="textarea"
            :autosize="{ minRows: 1, maxRows: 5 }"
            :input-props="{ 'aria-label': 'What was read', spellcheck: 'false' }"
          />
          <div class="learn">
            <n-checkbox v-model:checked="reading.learns">Remember the letters I put right</n-checkbox>
            <n-button v-if="pens.letters.length > 0" quaternary size="small" @click="pens.forgetLetters()">
              Forget the {{ pens.letters.length }} remembered
            </n-button>
          </div>
        </template>
      </template>
      <read-figures v-else />
      <n-button type="primary" attr-type="submit" :disabled="!isReady">Replace the writing</n-button>
    </form>
  </dialog-card>
</template>

<style scoped>
.form {
  display: grid;
  gap: 14px;
}

.wait {
  display: flex;
  gap: 12px;
  align-items: center;
  min-height: 80px;
}

.note {
  margin: 0;
  color: var(--ink-soft);
}

.learn {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
  justify-content: space-between;
}
</style>

<style>
.reading-dialog {
  width: min(620px, 96vw);
}
</style>
