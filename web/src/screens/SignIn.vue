<script setup lang="ts">
import { NButton, NForm, NFormItem, NInput } from 'naive-ui';
import { computed, reactive, ref } from 'vue';
import { useRouter } from 'vue-router';
import { useSession } from '../stores/session';

const session = useSession();
const router = useRouter();
const account = reactive({ code: '', name: '', email: '', password: '' });
const problem = ref('');
const busy = ref(false);
const isFirst = computed(() => session.needsFirstTeacher);

interface Field {
  key: keyof typeof account;
  label: string;
  autocomplete: string;
  hint?: string;
  type?: 'email' | 'password';
}
const SIGN_IN: Field[] = [
  { key: 'email', label: 'E-mail address', type: 'email', autocomplete: 'username' },
  { key: 'password', label: 'Password', type: 'password', autocomplete: 'current-password' },
];
const SET_UP: Field[] = [
  {
    key: 'code',
    label: 'Set-up code',
    autocomplete: 'one-time-code',
    hint: 'It is printed where the server was started.',
  },
  { key: 'name', label: 'Your name', autocomplete: 'name' },
  SIGN_IN[0],
  { ...SIGN_IN[1], autocomplete: 'new-password', hint: 'At least 10 characters.' },
];
const fields = computed(() => (isFirst.value ? SET_UP : SIGN_IN));

async function submit() {
  busy.value = true;
  problem.value = '';
  try {
    await (isFirst.value ? session.addFirstTeacher(account) : session.signIn(account));
    await router.replace('/');
  } catch (error) {
    problem.value = (error as Error).message;
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <main class="sign-in">
    <img src="/kite.svg" alt="" class="kite" />
    <h1>Kite Trail</h1>
    <p class="lead">
      {{ isFirst ? 'Set up this school: you are its first teacher.' : 'Write, speak, and send the explanation on.' }}
    </p>
    <n-form class="card" @submit.prevent="submit">
      <template v-for="{ key, label, hint = '', ...input } in fields" :key="key">
        <n-form-item :label="label" :show-feedback="false">
          <n-input
            v-model:value="account[key]"
            :type="key === 'password' ? 'password' : 'text'"
            placeholder=""
            :input-props="{ ...input, 'aria-label': label }"
          />
        </n-form-item>
        <p v-if="hint" class="hint">{{ hint }}</p>
      </template>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
      <n-button type="primary" attr-type="submit" size="large" block :loading="busy">
        {{ isFirst ? 'Set up and begin' : 'Sign in' }}
      </n-button>
    </n-form>
  </main>
</template>

<style scoped>
.sign-in {
  max-width: 25rem;
  margin: 0 auto;
  padding: 11vh 1.25rem 3rem;
  text-align: center;
}

.kite {
  width: 76px;
}

h1 {
  margin: 0.5rem 0 0.25rem;
  font-size: 2rem;
}

.lead {
  margin: 0 0 1.75rem;
  color: var(--ink-soft);
}

.card {
  display: grid;
  gap: 1rem;
  padding: 1.75rem;
  text-align: left;
  background: var(--paper);
  border-radius: 16px;
  box-shadow: var(--shadow);
}

.hint,
.problem {
  margin: -0.5rem 0 0;
  font-size: 0.95rem;
  color: var(--ink-soft);
}

.problem {
  color: var(--kite-deep);
}
</style>
