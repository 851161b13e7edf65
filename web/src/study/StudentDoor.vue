<script setup lang="ts">
import { studentKey } from '@kite-trail/core/contract/student';
import { onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { useSession } from '../app/session';
import { api } from '../server/api';
import { Refused } from '../server/call';

/** Where a student comes in: by a private link, or by the key on their slip of paper. */
const { ownKey = '' } = defineProps<{ ownKey?: string }>();
const session = useSession();
const router = useRouter();
const typed = ref('');
const problem = ref('');
const isBusy = ref(false);
/** A teacher is signed in on this device. */
const isTeachers = ref(false);

async function comeIn() {
  const read = studentKey.safeParse(ownKey || typed.value);
  if (!read.success) return void (problem.value = read.error.issues[0].message);
  isBusy.value = true;
  problem.value = '';
  try {
    await session.comeIn(read.data);
    // The key does not stay in the address, where others see it.
    await router.replace({ name: 'home' });
  } catch (error) {
    isTeachers.value = error instanceof Refused && error.code === 'teacher-here';
    problem.value = (error as Error).message;
  }
  isBusy.value = false;
}

async function signTeacherOut() {
  await api.signOut();
  isTeachers.value = false;
  await comeIn();
}

onMounted(() => ownKey && comeIn());
</script>

<template>
  <main class="door">
    <img src="/kite.svg" alt="" />
    <h1>Your tasks</h1>
    <p v-if="ownKey && isBusy" role="status">One moment…</p>
    <form v-else-if="!isTeachers" @submit.prevent="comeIn">
      <input
        v-model="typed"
        class="key"
        aria-label="Your key"
        placeholder="ABCD 2345 …"
        autocomplete="off"
        autocapitalize="characters"
        spellcheck="false"
        maxlength="30"
        autofocus
        required
      />
      <button :disabled="isBusy">Come in</button>
    </form>
    <p v-if="problem" role="alert">{{ problem }}</p>
    <p v-else-if="!isBusy" class="note">Your teacher has your key: sixteen letters and digits. You need no account.</p>
    <button v-if="isTeachers" @click="signTeacherOut">Sign the teacher out and come in</button>
  </main>
</template>

<style scoped src="../look/door.css"></style>
<style scoped>
.key {
  text-transform: uppercase;
  letter-spacing: 0.06em;
}

.note {
  color: var(--ink-soft);
}
</style>
