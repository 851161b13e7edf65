<script setup lang="ts">
import { IconSchool } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { useSession } from '../app/session';
import { useAttempt } from '../controls/attempt';
import ProblemText from '../controls/ProblemText.vue';
import { api } from '../server/api';

/** The way in by the school's own accounts, where it has some. */
const { ticket = null } = defineProps<{ /** With which somebody joins. */ ticket?: string | null }>();

const session = useSession();
const { problem, attempt } = useAttempt();
const go = () => attempt(async () => location.assign(await api.schoolDoor(ticket)));
</script>

<template>
  <div v-if="session.schoolAccounts" class="door">
    <p class="or">or</p>
    <problem-text v-if="problem">{{ problem }}</problem-text>
    <n-button size="large" block @click="go">
      <template #icon><icon-school /></template>
      {{ ticket ? 'Join' : 'Sign in' }} with {{ session.schoolAccounts }}
    </n-button>
  </div>
</template>

<style scoped>
.door {
  display: grid;
  gap: 0.75rem;
}

.or {
  margin: 0.9rem 0 0;
  color: var(--ink-soft);
  text-align: center;
}
</style>
