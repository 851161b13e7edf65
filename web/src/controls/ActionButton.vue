<script setup lang="ts">
import { NButton } from 'naive-ui';
import type { Component } from 'vue';

/** A button of a bar: a sign, and its name where that is wanted. */
defineProps<{
  name: string;
  icon: Component;
  pressed?: boolean;
  named?: boolean;
  title?: string;
  disabled?: boolean;
  bordered?: boolean;
}>();
</script>

<template>
  <n-button
    class="act"
    :class="{ named, bordered }"
    :quaternary="!bordered"
    :aria-label="name"
    :title="title ?? name"
    :aria-pressed="pressed"
    :disabled="disabled"
  >
    <component :is="icon" :size="22" stroke="1.75" />
    <span v-if="named">{{ name }}</span>
  </n-button>
</template>

<style scoped>
.act {
  flex: none;
  width: 44px;
  height: 44px;
  padding: 0;
}

.named {
  width: auto;
  padding: 0 12px;
}

.bordered {
  height: 38px;
}

.named span {
  margin-left: 6px;
}

.act[aria-pressed='true'] {
  background: var(--straw-pale);
  outline: 2px solid var(--straw);
  outline-offset: -2px;
}
</style>
