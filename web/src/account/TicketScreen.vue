<script setup lang="ts">
import { NButton } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useAttempt } from '../controls/attempt';
import { api } from '../server/api';
import { useSession } from '../app/session';
import { EMAIL, NAME, NEW_PASSWORD } from './account-fields';
import AccountForm from './AccountForm.vue';
import DoorScreen from './DoorScreen.vue';
import SchoolDoor from './SchoolDoor.vue';

/** Lets somebody in who has a link: as a new teacher, or with a new password. */
const session = useSession();
const route = useRoute();
const router = useRouter();

/** It stands behind `#`, which browsers keep to themselves: no server or proxy writes it down with the address. */
const code = computed(() => route.hash.slice(1));
/** Whose password it sets anew; `null` where it makes a new teacher. */
const holder = ref<string | null>(null);
const state = ref<'asking' | 'good' | 'refused'>('asking');
const { problem, attempt } = useAttempt();

// Another link may be opened in the same window: then only what is behind `#` changes.
watch(
  code,
  async (given) => {
    state.value = 'asking';
    const isGood = await attempt(async () => void (holder.value = (await api.readTicket(given)).name));
    state.value = isGood ? 'good' : 'refused';
  },
  { immediate: true },
);

async function join(account: { name: string; email: string; password: string }) {
  await session.join({ ...account, code: code.value });
  await router.replace('/');
}

async function reset({ password }: { password: string }) {
  await session.resetPassword({ password, code: code.value });
  await router.replace('/');
}
</script>

<template>
  <door-screen v-if="state === 'refused'" lead="This way in is closed.">
    <p class="told" role="alert">{{ problem }}</p>
    <n-button size="large" block @click="router.replace('/')">Go to the start</n-button>
  </door-screen>
  <door-screen v-else-if="state === 'good' && holder === null" lead="You are invited to teach here.">
    <account-form :fields="[NAME, EMAIL, NEW_PASSWORD]" label="Join and begin" :action="join" />
    <school-door :ticket="code" />
  </door-screen>
  <door-screen v-else-if="state === 'good'" :lead="`Choose a new password, ${holder}.`">
    <account-form :fields="[NEW_PASSWORD]" label="Set it and sign in" :action="reset" />
  </door-screen>
</template>

<style scoped>
.told {
  margin: 0 0 1.25rem;
}
</style>
