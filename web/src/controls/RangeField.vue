<script setup lang="ts">
/** A value set along a line. While it is dragged it is followed; `settled` says where it was left. */
defineProps<{ min: number; max: number; step: number }>();
const value = defineModel<number>();
defineEmits<{ settled: [value: number] }>();

const valueOf = (event: Event) => Number((event.target as HTMLInputElement).value);
</script>

<template>
  <label class="range">
    <span class="name"><slot /></span>
    <input
      type="range"
      :min="min"
      :max="max"
      :step="step"
      :value="value"
      @input="value = valueOf($event)"
      @change="$emit('settled', valueOf($event))"
    />
  </label>
</template>

<style scoped>
.range {
  display: flex;
  flex: 1 1 240px;
  gap: 12px;
  align-items: center;
}

.name {
  min-width: 96px;
}

.range input {
  flex: 1;
  min-width: 100px;
  height: 28px;
  accent-color: var(--tail);
}

@media (any-pointer: coarse) {
  .range input {
    height: 44px;
  }
}
</style>
