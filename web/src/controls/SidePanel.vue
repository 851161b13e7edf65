<script setup lang="ts">
import { IconX } from '@tabler/icons-vue';

/** What lies beside the page, with its name and a way to close it. */
defineProps<{ name: string }>();
const emit = defineEmits<{ close: [] }>();
</script>

<template>
  <section class="side" :aria-label="name">
    <header class="head">
      <h2>{{ name }}</h2>
      <button class="close" :aria-label="`Close the ${name.toLowerCase()}`" @click="emit('close')">
        <icon-x :size="20" />
      </button>
    </header>
    <slot />
  </section>
</template>

<style scoped>
.side {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.6rem;
  align-content: start;
}

.head {
  display: flex;
  gap: 0.7rem;
  align-items: center;
  justify-content: space-between;
}

h2 {
  margin: 0;
  font-size: 1.1rem;
}

.close {
  display: grid;
  place-items: center;
  width: 44px;
  height: 44px;
  color: inherit;
  cursor: pointer;
  background: transparent;
  border: 0;
}

/* What panels are made of. */
:slotted(.note) {
  margin: 0;
  color: var(--ink-soft);
}

:slotted(.rows) {
  padding: 0;
  margin: 0;
  list-style: none;
  background: var(--paper);
  border-radius: 12px;
  box-shadow: var(--shadow);
}

:slotted(.row) {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  padding: 0.3rem 0.4rem 0.3rem 0.9rem;
  font-variant-numeric: tabular-nums;
  border-bottom: 1px solid var(--line);
}

:slotted(.row:last-child) {
  border-bottom: 0;
}
</style>
