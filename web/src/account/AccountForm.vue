<script setup lang="ts">
import { NButton, NForm, NFormItem, NInput } from 'naive-ui';
import { reactive, ref } from 'vue';
import { useAttempt } from '../controls/attempt';
import type { AccountField } from './account-fields';
import ProblemText from '../controls/ProblemText.vue';

/** A form about an account: its fields, one button, and what was wrong. */
const {
  fields,
  action,
  initial = {},
} = defineProps<{
  fields: readonly AccountField[];
  /** What the button says. */
  label: string;
  /** What it does; it throws what is told. */
  action: (values: Record<AccountField['key'], string>) => Promise<void>;
  initial?: Partial<Record<AccountField['key'], string>>;
  /** What it does cannot be taken back. */
  isGrave?: boolean;
}>();

const EMPTY = { code: '', name: '', email: '', password: '', newPassword: '' };
const values = reactive({ ...EMPTY, ...initial });
const { problem, attempt } = useAttempt();
const isBusy = ref(false);
const isDone = ref(false);

const isSecret = ({ key }: AccountField) => key === 'password' || key === 'newPassword';

async function submit() {
  isBusy.value = true;
  isDone.value = await attempt(() => action({ ...values }));
  isBusy.value = false;
  if (isDone.value) for (const field of fields.filter(isSecret)) values[field.key] = '';
}
</script>

<template>
  <n-form class="form" @submit.prevent="submit">
    <template v-for="field in fields" :key="field.key">
      <n-form-item :label="field.label" :show-feedback="false">
        <n-input
          v-model:value="values[field.key]"
          size="large"
          :type="isSecret(field) ? 'password' : 'text'"
          placeholder=""
          :input-props="{ type: field.type, autocomplete: field.autocomplete, 'aria-label': field.label }"
        />
      </n-form-item>
      <p v-if="field.hint" class="hint">{{ field.hint }}</p>
    </template>
    <problem-text v-if="problem">{{ problem }}</problem-text>
    <p v-else-if="isDone" class="done" role="status"><slot name="done" /></p>
    <n-button :type="isGrave ? 'error' : 'primary'" attr-type="submit" size="large" block :loading="isBusy">
      {{ label }}
    </n-button>
  </n-form>
</template>

<style scoped>
.form {
  display: grid;
  gap: 1rem;
}

.hint,
.done {
  margin: -0.5rem 0 0;
  font-size: 0.95rem;
  color: var(--ink-soft);
}

.done {
  color: var(--tail);
}

.done:empty {
  display: none;
}
</style>
