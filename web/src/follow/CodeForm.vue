<script setup lang="ts">
import { liveCode } from '@kite-trail/core/contract/live';
import { ref } from 'vue';

/** Where a code is typed that stands on a board. */
const { problem: found = '' } = defineProps<{ /** Why the last one led nowhere. */ problem?: string }>();
const typed = ref('');
const problem = ref(found);

function follow() {
  const code = liveCode.safeParse(typed.value);
  if (code.success) location.assign(`/live/${code.data}`);
  else problem.value = code.error.issues[0].message;
}
</script>

<template>
  <main class="door">
    <img src="/kite.svg" alt="" />
    <h1>Follow a live page</h1>
    <form @submit.prevent="follow">
      <input
        v-model="typed"
        aria-label="Code"
        placeholder="ABC 234"
        autocomplete="off"
        autocapitalize="characters"
        spellcheck="false"
        maxlength="12"
        autofocus
        required
      />
      <button>Follow</button>
    </form>
    <p v-if="problem" role="alert">{{ problem }}</p>
    <p v-else class="note">Your teacher has the code: six letters and digits.</p>
  </main>
</template>

<style scoped>
.door {
  max-width: 28rem;
  padding: 16vh 1.5rem;
  margin: 0 auto;
  text-align: center;
}

img {
  width: 72px;
}

h1 {
  font-size: 1.5rem;
}

form {
  display: flex;
  gap: 0.5rem;
}

input {
  flex: 1;
  min-width: 0;
  min-height: 60px;
  padding: 0 1rem;
  font: inherit;
  font-size: 1.7rem;
  font-weight: 650;
  color: inherit;
  text-align: center;
  text-transform: uppercase;
  letter-spacing: 0.08em;
  background: var(--paper);
  border: 1px solid var(--field-line);
  border-radius: var(--radius);
}

input::placeholder {
  font-weight: 400;
  color: var(--ink-faint);
}

button {
  min-height: 60px;
  padding: 0 1.5rem;
  font: inherit;
  font-weight: 650;
  color: var(--on-tail);
  cursor: pointer;
  background: var(--tail);
  border: 0;
  border-radius: var(--radius);
}

p[role='alert'] {
  color: var(--kite-deep);
}

.note {
  color: var(--ink-soft);
}
</style>
