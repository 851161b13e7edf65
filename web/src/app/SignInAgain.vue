<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { NButton, NInput } from 'naive-ui';
import { computed, ref } from 'vue';
import { useOutbox } from './outbox';
import { useSession } from './session';
import { api } from '../server/api';
import DialogCard from '../controls/DialogCard.vue';

/** Asks for the password again when the session has expired, without leaving the page: nothing here is lost. */
const session = useSession();
const outbox = useOutbox();
const password = ref('');
const problem = ref('');

/** Whatever waits for it. Whoever is at the door signs in there. */
const isNeeded = computed(
  () => outbox.status.waitsFor?.for === 'sign-in' && session.teacher !== null && session.canBeAsked,
);

// Whoever has signed in in another window comes back here.
useEventListener(window, 'focus', async () => {
  if (!isNeeded.value) return;
  const { teacher } = session;
  const known = await api.session().catch(() => null);
  if (known?.teacher?.id === teacher?.id) await outbox.retry();
});

async function signIn() {
  problem.value = '';
  try {
    await session.signIn({ email: session.teacher!.email, password: password.value });
    password.value = '';
    await outbox.retry();
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
</script>

<template>
  <dialog-card :show="isNeeded" title="Sign in again" style="max-width: 26rem" :closable="false">
    <p>Your sign-in has run out. What you made is safe on this device and goes to the server when you are back.</p>
    <form @submit.prevent="signIn">
      <n-input
        v-model:value="password"
        type="password"
        placeholder="Password"
        :input-props="{ 'aria-label': 'Password', autocomplete: 'current-password' }"
      />
      <p v-if="problem" role="alert">{{ problem }}</p>
      <n-button type="primary" attr-type="submit" block class="go">Sign in</n-button>
    </form>
    <n-button v-if="session.schoolAccounts" tag="a" href="/sign-in" target="_blank" block class="go">
      With {{ session.schoolAccounts }}, in a window of its own
    </n-button>
  </dialog-card>
</template>

<style scoped>
.go {
  margin-top: 1rem;
}
</style>
