<script setup lang="ts">
import ColorField from './ColorField.vue';

/** Colours at hand, and any other. */
const color = defineModel<string>({ required: true });
defineProps<{ label: string; colors: readonly { name: string; color: string }[] }>();
</script>

<template>
  <div class="colors" role="group" :aria-label="label">
    <button
      v-for="one in colors"
      :key="one.color"
      class="dot"
      :style="{ background: one.color }"
      :title="one.name"
      :aria-label="one.name"
      :aria-pressed="color === one.color"
      @click="color = one.color"
    ></button>
    <color-field v-model="color" />
  </div>
</template>

<style scoped>
.colors {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}

.dot {
  flex: none;
  width: 34px;
  height: 34px;
  cursor: pointer;
  border: 2px solid var(--line);
  border-radius: 50%;
}

.dot[aria-pressed='true'] {
  outline: 3px solid var(--straw);
}
</style>
