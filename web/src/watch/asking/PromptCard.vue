<script setup lang="ts">
import { nextTick, onMounted, ref, watch } from 'vue';
import type { AskedPrompt } from './prompts';

/** A question of the teacher's: it waits for an answer, or for whoever watches to go on without one. */
const props = defineProps<{ prompt: AskedPrompt; answer: string }>();
const emit = defineEmits<{ answer: [text: string]; goOn: [] }>();

const text = ref(props.answer);
const isCompared = ref(props.answer !== '' && props.prompt.answer !== '');
const card = ref<HTMLElement>();
const foot = ref<HTMLElement>();

onMounted(() => {
  card.value?.focus();
  // Beside a page that fills the screen nobody would see it.
  if (document.fullscreenElement) void document.exitFullscreen();
});
watch(text, (now) => emit('answer', now));

/** Whoever has thought may compare. */
async function compare() {
  isCompared.value = true;
  await nextTick();
  foot.value?.scrollIntoView({ block: 'nearest' });
}
</script>

<template>
  <section ref="card" class="panel card" role="dialog" aria-labelledby="prompt-asks" tabindex="-1">
    <h2 id="prompt-asks" dir="auto">{{ prompt.question }}</h2>
    <label>
      Your answer
      <textarea v-model="text" rows="3" maxlength="4000" dir="auto"></textarea>
    </label>
    <p class="note">It stays on this device: nobody else sees it.</p>
    <div v-if="isCompared" class="teacher">
      <h3>Your teacher’s answer</h3>
      <p dir="auto">{{ prompt.answer }}</p>
    </div>
    <div ref="foot" class="foot">
      <button v-if="prompt.answer && !isCompared" class="plain" @click="compare">Compare</button>
      <button class="go-on" @click="emit('goOn')">Go on</button>
    </div>
  </section>
</template>

<style scoped src="../beside-panel.css"></style>
<style scoped>
.card {
  gap: 0.7rem;
  padding: 1.1rem 1.3rem;
  overflow-y: auto;
  border: 2px solid var(--tail);
  outline: none;
}

h2,
h3,
p {
  white-space: pre-line;
}

h2 {
  font-size: 1.25rem;
}

h3 {
  font-size: 1rem;
}

label {
  display: grid;
  gap: 0.3rem;
}

.teacher {
  padding: 0.6rem 0.8rem;
  background: var(--straw-pale);
  border-radius: var(--radius);
}

.foot {
  display: flex;
  gap: 0.5rem;
  justify-content: flex-end;
}

.go-on {
  min-height: 48px;
  padding: 0 1.4rem;
  font: inherit;
  font-weight: 650;
  color: var(--on-tail);
  cursor: pointer;
  background: var(--tail);
  border: 0;
  border-radius: var(--radius);
}

/* On a phone held upright it lies where a thumb is, so that the page stays in sight. */
@media (max-width: 760px) and (max-aspect-ratio: 3/4) {
  .card {
    position: fixed;
    inset: auto 0 0;
    z-index: 2;
    max-height: 62dvh;
    border-radius: 14px 14px 0 0;
  }
}
</style>
