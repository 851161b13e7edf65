<script setup lang="ts">
import type { Drive } from '@kite-trail/core/contract/drive';
import { NButton } from 'naive-ui';
import { ref } from 'vue';
import { useAttempt } from '../controls/attempt';
import ProblemText from '../controls/ProblemText.vue';
import TextField from '../controls/TextField.vue';
import { useDrives } from './drives';

/** Says to the school by which name and password a drive knows its teacher. */
const { drive } = defineProps<{ drive: Drive }>();
const drives = useDrives();
const { problem, attempt } = useAttempt();
const userName = ref(drive.userName ?? '');
const password = ref('');
const isBusy = ref(false);

async function open() {
  isBusy.value = true;
  const account = { userName: userName.value, password: password.value };
  await attempt(() => drives.open(drive.id, account));
  isBusy.value = false;
}
</script>

<template>
  <form class="door" @submit.prevent="open">
    <text-field v-model="userName" label="Your name on this drive" :most="200" />
    <text-field v-model="password" label="Your password there" :most="500" is-secret />
    <p class="note">
      The school’s server keeps them sealed and puts files there for you. If the drive can make passwords for single
      programs, make one.
    </p>
    <problem-text v-if="problem">{{ problem }}</problem-text>
    <n-button class="go" type="primary" attr-type="submit" :loading="isBusy" :disabled="!userName || !password">
      Open the drive
    </n-button>
  </form>
</template>

<style scoped>
.door {
  display: grid;
  gap: 0.9rem;
}

.note {
  margin: 0;
  color: var(--ink-soft);
}

.go {
  justify-self: end;
}
</style>
