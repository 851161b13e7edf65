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

<style scoped src="../../look/door.css"></style>
