<script setup lang="ts">
import { ref } from 'vue';
import { tryPasscode } from './passcode';

/** The door of a link that has a passcode. */
const { token } = defineProps<{ token: string }>();
const emit = defineEmits<{ open: [] }>();
const passcode = ref('');
const problem = ref('');

async function attempt() {
  problem.value = '';
  try {
    await tryPasscode(token, passcode.value);
    emit('open');
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
</script>

<template>
  <main class="door">
    <img src="/kite.svg" alt="" />
    <h1>This lesson has a passcode</h1>
    <form @submit.prevent="attempt">
      <input v-model="passcode" aria-label="Passcode" autocomplete="off" autocapitalize="none" autofocus required />
      <button>Open</button>
    </form>
    <p v-if="problem" role="alert">{{ problem }}</p>
  </main>
</template>

<style scoped>
.door {
  max-width: 28rem;
  padding: 18vh 1.5rem;
  margin: 0 auto;
  text-align: center;
}

img {
  width: 72px;
}

h1 {
  font-size: 1.3rem;
}

form {
  display: flex;
  gap: 0.5rem;
}

input {
  flex: 1;
  min-width: 0;
  min-height: 52px;
  padding: 0 1rem;
  font: inherit;
  font-size: 1.2rem;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--field-line);
  border-radius: var(--radius);
}

button {
  min-height: 52px;
  padding: 0 1.5rem;
  font-weight: 650;
  color: var(--on-tail);
  cursor: pointer;
  background: var(--tail);
  border: 0;
  border-radius: var(--radius);
}

p {
  color: var(--kite-deep);
}
</style>
