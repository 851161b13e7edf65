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
      <n-form-item v-if="isFirst" label="Set-up code" :show-feedback="false">
        <n-input
          v-model:value="account.code"
          placeholder=""
          :input-props="{ autocomplete: 'one-time-code', spellcheck: 'false', 'aria-label': 'Set-up code' }"
        />
      </n-form-item>
      <p v-if="isFirst" class="hint">It is printed where the server was started.</p>
      <n-form-item v-if="isFirst" label="Your name" :show-feedback="false">
        <n-input
          v-model:value="account.name"
          placeholder=""
          :input-props="{ autocomplete: 'name', 'aria-label': 'Your name' }"
        />
      </n-form-item>
      <n-form-item label="E-mail address" :show-feedback="false">
        <n-input
          v-model:value="account.email"
          placeholder=""
          :input-props="{ type: 'email', autocomplete: 'username', 'aria-label': 'E-mail address' }"
        />
      </n-form-item>
      <n-form-item label="Password" :show-feedback="false">
        <n-input
          v-model:value="account.password"
          type="password"
          placeholder=""
          :input-props="{
            autocomplete: isFirst ? 'new-password' : 'current-password',
            'aria-label': 'Password',
          }"
        />
      </n-form-item>
      <p v-if="isFirst" class="hint">At least 10 characters.</p>
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
