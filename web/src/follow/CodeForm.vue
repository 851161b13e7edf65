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
        class="code"
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

<style scoped src="../look/door.css"></style>
<style scoped>
/* As large as it is read off a board. */
.code {
  font-size: 1.7rem;
  font-weight: 650;
  text-align: center;
  text-transform: uppercase;
  letter-spacing: 0.08em;
}

.code::placeholder {
  font-weight: 400;
  color: var(--ink-faint);
}

.note {
  color: var(--ink-soft);
}
</style>
