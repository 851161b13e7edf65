<script setup lang="ts">
import type { SignIn } from '@kite-trail/core/contract/account';
import bowser from 'bowser';
import { NButton } from 'naive-ui';
import { computed, onMounted, shallowRef } from 'vue';
import { useAttempt } from '../controls/attempt';
import { momentText } from '../look/time';
import { api } from '../server/api';
import ProblemText from '../controls/ProblemText.vue';

/** Where the teacher is signed in, and the way to end it there. */
const signIns = shallowRef<readonly SignIn[]>([]);
const { problem, attempt } = useAttempt();
const hasOthers = computed(() => signIns.value.some(({ isThis }) => !isThis));

const look = async () => void (signIns.value = await api.signIns());
onMounted(() => attempt(look));

const end = (what: () => Promise<unknown>) => attempt(() => what().then(look));

/** What a browser calls itself, in short. */
function nameOf({ device }: SignIn): string {
  if (device === '') return 'A device';
  const { browser, os } = bowser.parse(device);
  return [browser.name ?? 'A browser', os.name].filter(Boolean).join(' on ');
}
</script>

<template>
  <problem-text v-if="problem">{{ problem }}</problem-text>
  <ul>
    <li v-for="one in signIns" :key="one.id">
      <span class="what">
        <b>{{ nameOf(one) }}</b>
        <span class="soft">{{ one.isThis ? 'this device' : `last seen ${momentText(one.seenAt)}` }}</span>
      </span>
      <n-button v-if="!one.isThis" :aria-label="`Sign out ${nameOf(one)}`" @click="end(() => api.endSignIn(one.id))">
        Sign out
      </n-button>
    </li>
  </ul>
  <n-button v-if="hasOthers" class="all" size="large" block @click="end(api.endOtherSignIns)"
    >Sign out everywhere else</n-button
  >
</template>

<style scoped>
ul {
  padding: 0;
  margin: 0;
  list-style: none;
}

li {
  display: flex;
  gap: 1rem;
  align-items: center;
  justify-content: space-between;
  min-height: 60px;
}

li + li {
  border-top: 1px solid var(--line);
}

.what {
  display: grid;
}

.all {
  margin-top: 1rem;
}

.soft {
  font-size: 0.95rem;
  color: var(--ink-soft);
}
</style>
