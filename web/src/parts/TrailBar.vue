<script setup lang="ts">
/** What can be done just now, below the trail. */
defineProps<{ name: string }>();
</script>

<template>
  <div class="bar" role="group" :aria-label="name"><slot /></div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
  padding: 0.5rem 1rem 0;
}

:slotted(.told) {
  flex: 1 1 12rem;
  color: var(--ink-soft);
}

:slotted(.told b) {
  color: var(--ink);
  white-space: nowrap;
}
</style>
