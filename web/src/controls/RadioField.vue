<script setup lang="ts" generic="T extends string">
import { NRadio, NRadioGroup } from 'naive-ui';

/** Chooses one of a few things, all of which are seen. */
const chosen = defineModel<T>({ required: true });
defineProps<{
  label: string;
  options: readonly { value: T; label: string; disabled?: boolean }[];
  /** One below the other. */
  isColumn?: boolean;
}>();
</script>

<template>
  <n-radio-group v-model:value="chosen" class="radios" :class="{ column: isColumn }" :aria-label="label">
    <n-radio v-for="one in options" :key="one.value" class="radio" :value="one.value" :disabled="one.disabled">
      {{ one.label }}
    </n-radio>
  </n-radio-group>
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
  align-items: center;
  min-height: 40px;
}

@media (any-pointer: coarse) {
  .radio {
    min-height: 44px;
  }
}
</style>
