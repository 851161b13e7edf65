<script setup lang="ts">
import { computed, ref } from 'vue';
import { clockText } from '../../look/time';
import type { AskedPrompt, Prompts } from './prompts';
import type { Questions } from './questions';

/** What the teacher asks, what others have asked, and a question of one's own at the moment that is seen. */
const props = defineProps<{
  playhead: number;
  prompts: readonly AskedPrompt[];
  answers: Prompts['answers']['value'];
  questions: Questions;
}>();
const emit = defineEmits<{ close: []; seek: [samples: number]; prompt: [prompt: AskedPrompt] }>();

const isSending = ref(false);
const told = ref('');
const problem = ref('');
const { mayAsk, draft, answered, waiting } = props.questions;
/** Whoever comes back goes on where they were; in a page of another site, it opens beside that. */
const WHERE = window.top === window ? '_self' : '_blank';
const hasAny = computed(() => answered.value.length + waiting.value.length > 0);

async function send() {
  if (draft.value.trim() === '') return;
  isSending.value = true;
  problem.value = told.value = '';
  try {
    await props.questions.send(props.playhead);
    told.value = 'It is sent. The answer will stand here, at this moment.';
  } catch (error) {
    problem.value = (error as Error).message;
  } finally {
    isSending.value = false;
  }
}
</script>

<template>
  <section class="panel" aria-label="Questions">
    <header>
      <h2>Questions</h2>
      <button class="close" aria-label="Close the questions" @click="emit('close')">×</button>
    </header>
    <div class="list">
      <form v-if="mayAsk" @submit.prevent="send">
        <label>
          Ask your teacher about {{ clockText(playhead) }}
          <textarea v-model="draft" rows="2" maxlength="500" dir="auto"></textarea>
        </label>
        <div class="send">
          <span class="note">Your name is not sent.</span>
          <button class="plain" :disabled="isSending">Send</button>
        </div>
        <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
        <p v-else role="status" class="note">{{ told }}</p>
      </form>
      <template v-if="prompts.length > 0">
        <h3>Your teacher asks</h3>
        <button v-for="one in prompts" :key="one.id" class="entry" @click="emit('prompt', one)">
          <span class="time">{{ clockText(one.atSamples) }}</span>
          <span dir="auto">{{ one.question }}</span>
          <span v-if="answers[one.id]" class="said" dir="auto">{{ answers[one.id] }}</span>
        </button>
      </template>
      <h3 v-if="hasAny">Asked and answered</h3>
      <template v-for="one in answered" :key="one.id">
        <button class="entry" @click="emit('seek', one.atSamples)">
          <span class="time">{{ clockText(one.atSamples) }}</span>
          <span dir="auto">{{ one.question }}</span>
          <span v-if="one.answer" class="said" dir="auto">{{ one.answer }}</span>
        </button>
        <a v-if="one.recording" class="plain recording" :href="`/w/${one.recording}`" :target="WHERE">
          Watch your teacher’s answer
        </a>
      </template>
      <button v-for="one in waiting" :key="one.id" class="entry" @click="emit('seek', one.atSamples)">
        <span class="time">{{ clockText(one.atSamples) }}</span>
        <span dir="auto">{{ one.question }}</span>
        <span class="note">Waits for an answer.</span>
      </button>
    </div>
  </section>
</template>

<style scoped src="../beside-panel.css"></style>
<style scoped>
.send {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  justify-content: space-between;
}

h3 {
  margin-top: 0.6rem;
  font-size: 1rem;
}

.list,
form,
label {
  display: grid;
  gap: 0.4rem;
  align-content: start;
}

.list {
  overflow-y: auto;
}

.entry {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 0.1rem 0.7rem;
  padding: 0.5rem 0.4rem;
  font: inherit;
  color: inherit;
  text-align: start;
  cursor: pointer;
  background: none;
  border: 0;
  border-top: 1px solid var(--line);
}

.entry > :nth-child(n + 3) {
  grid-column: 2;
}

.recording {
  display: inline-flex;
  align-items: center;
  justify-self: start;
  margin: 0 0 0.6rem 0.4rem;
  text-decoration: none;
}

.said {
  padding-inline-start: 0.6rem;
  white-space: pre-line;
  border-inline-start: 3px solid var(--straw);
}

.time {
  font-variant-numeric: tabular-nums;
  color: var(--tail);
}

.problem {
  color: var(--kite-deep, var(--ink));
}
</style>
