<script setup lang="ts" generic="T extends string">
import { useId } from 'vue';

/** Chooses one of a few things, all of which are seen. */
const chosen = defineModel<T>({ required: true });
defineProps<{
  label: string;
  options: readonly { value: T; label: string; disabled?: boolean }[];
  /** One below the other. */
  isColumn?: boolean;
}>();
const name = useId();
</script>

<template>
  <div class="radios" :class="{ column: isColumn }" role="radiogroup" :aria-label="label">
    <label v-for="one in options" :key="one.value" class="radio" :class="{ disabled: one.disabled }">
      <input v-model="chosen" type="radio" :name="name" :value="one.value" :disabled="one.disabled" />
      {{ one.label }}
    </label>
  </div>
</template>

<style scoped>
.radios {
  display: flex;
  flex-wrap: wrap;
  gap: 0 20px;
}

.column {
  display: grid;
}

.radio {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 40px;
  cursor: pointer;
}

.disabled {
  color: var(--ink-soft);
  cursor: default;
}

.radio input {
  width: 20px;
  height: 20px;
  accent-color: var(--tail);
}

@media (any-pointer: coarse) {
  .radio {
    min-height: 44px;
  }
}
</style>
