<script setup lang="ts">
import { computed, ref } from 'vue';
import ProblemText from '../controls/ProblemText.vue';
import { useRecordingNow } from '../lesson/recording-now';
import { dueText } from './due';
import { useWork } from './work';

/** What is asked, in a line that opens. */
const work = useWork();
const recording = useRecordingNow();
const isOpen = ref(false);
const task = computed(() => work.own?.task ?? null);
const due = computed(() => dueText(task.value));
</script>

<template>
  <div v-if="task && !recording.isOn && (task.question || due || task.choices.length > 0)" class="asked">
    <button
      v-if="task.question"
      class="question"
      :class="{ open: isOpen }"
      :aria-expanded="isOpen"
      @click="isOpen = !isOpen"
    >
      <span dir="auto">{{ task.question }}</span>
    </button>
    <span v-if="task.choices.length > 0" class="choices" role="radiogroup" aria-label="Your choice">
      <button
        v-for="(choice, n) in task.choices"
        :key="n"
        class="choice"
        role="radio"
        :aria-checked="work.own?.reply?.choice === n"
        :disabled="task.isClosed"
        dir="auto"
        @click="work.choose(n)"
      >
        {{ choice }}
      </button>
    </span>
    <span v-if="due" class="due">{{ due }}</span>
    <a v-if="task.instruction" :href="`/w/${task.instruction}`" target="_blank">Hear what to do</a>
    <problem-text v-if="work.problem">{{ work.problem }}</problem-text>
    <a v-if="task.example" :href="`/w/${task.example}`" target="_blank">See an example</a>
  </div>
</template>

<style scoped>
.asked {
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 1.2rem;
  align-items: center;
  padding: 0.2rem 1rem;
  background: var(--straw-pale);
}

.question {
  flex: 1 1 14rem;
  min-width: 0;
  min-height: 44px;
  padding: 0;
  font: inherit;
  font-weight: 600;
  color: inherit;
  text-align: start;
  cursor: pointer;
  background: transparent;
  border: 0;
}

.question span {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.question.open span {
  max-height: 30vh;
  overflow: auto;
  white-space: pre-line;
}

.choices {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
  padding: 0.3rem 0;
}

.choice {
  min-height: 44px;
  padding: 0 1rem;
  font: inherit;
  color: inherit;
  cursor: pointer;
  background: var(--paper);
  border: 1.5px solid var(--field-line);
  border-radius: 22px;
}

.choice[aria-checked='true'] {
  font-weight: 650;
  color: var(--on-tail);
  background: var(--tail);
  border-color: var(--tail);
}

.due {
  color: var(--ink-soft);
}

a {
  padding: 0.5rem 0;
  color: var(--tail);
}
</style>
