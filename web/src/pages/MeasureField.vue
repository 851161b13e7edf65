<script setup lang="ts">
import { NInputNumber } from 'naive-ui';

/** A length in millimetres. */
const measureMm = defineModel<number>({ required: true });
defineProps<{ label: string; isWrong: boolean }>();
</script>

<template>
  <n-input-number
    :value="measureMm"
    class="measure"
    :status="isWrong ? 'error' : undefined"
    :show-button="false"
    :input-props="{ 'aria-label': label, 'aria-invalid': isWrong }"
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
