<script setup lang="ts">
import { NInput } from 'naive-ui';

/** A line, or several, that somebody writes in whatever script, below what it is for. */
const {
  label,
  name = '',
  rows = 0,
  placeholder = '',
} = defineProps<{
  label: string;
  /** What it is called among others, where its label alone would not say. */
  name?: string;
  most: number;
  /** How many lines are seen; one where nothing is said. */
  rows?: number;
  placeholder?: string;
  autofocus?: boolean;
  /** Nobody who looks on reads it. */
  isSecret?: boolean;
}>();
const text = defineModel<string>({ required: true });
</script>

<template>
  <label class="field">
    {{ label }}
    <n-input
      v-model:value="text"
      size="large"
      :type="isSecret ? 'password' : rows ? 'textarea' : 'text'"
      :rows="rows"
      :maxlength="most"
      :placeholder="placeholder"
      :autofocus="autofocus"
      :input-props="{ 'aria-label': name || label, dir: 'auto', autocomplete: isSecret ? 'off' : undefined }"
    />
  </label>
</template>

<style scoped>
.field {
  display: grid;
  gap: 0.35rem;
  min-width: 0;
}
</style>
