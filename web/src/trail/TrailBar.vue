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

/* Tools stand in the bar side by side with what else is in it. */
.bar :deep(.tools) {
  display: contents;
}

.bar :deep(.told) {
  flex: 1 1 12rem;
  color: var(--ink-soft);
}

.bar :deep(.told b) {
  color: var(--ink);
  white-space: nowrap;
}
</style>
