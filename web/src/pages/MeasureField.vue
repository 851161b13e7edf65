<script setup lang="ts">
import { NInputNumber } from 'naive-ui';

/** A length in millimetres. */
const measureMm = defineModel<number>({ required: true });
defineProps<{ min: number; max: number; label: string }>();
</script>

<template>
  <n-input-number
    :value="measureMm"
    class="measure"
    :min="min"
    :max="max"
    :show-button="false"
    :input-props="{ 'aria-label': label }"
    @update:value="(value) => value !== null && (measureMm = value)"
  >
    <template #suffix>mm</template>
  </n-input-number>
</template>

<style scoped>
.measure {
  width: 110px;
}
</style>
