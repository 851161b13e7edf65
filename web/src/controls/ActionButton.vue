<script setup lang="ts">
import type { Component } from 'vue';

/** A button in a bar: a sign, and its name where that is wanted. */
defineProps<{ name: string; icon: Component; pressed?: boolean; named?: boolean; title?: string }>();
</script>

<template>
  <button class="act" :class="{ named }" :aria-label="name" :title="title ?? name" :aria-pressed="pressed">
    <component :is="icon" :size="22" stroke="1.75" />
    <template v-if="named">{{ name }}</template>
  </button>
</template>

<style scoped>
.act {
  display: flex;
  flex: none;
  gap: 6px;
  align-items: center;
  justify-content: center;
  min-width: 44px;
  height: 44px;
  padding: 0;
  cursor: pointer;
  background: transparent;
  border: 0;
  border-radius: 8px;
}

.named {
  padding: 0 12px;
}

.act:hover:not(:disabled) {
  background: var(--sail-deep);
}

.act[aria-pressed='true'] {
  background: var(--straw-pale);
  outline: 2px solid var(--straw);
  outline-offset: -2px;
}

.act:disabled {
  opacity: 0.35;
}
</style>
