<script setup lang="ts">
/** How far long work has come. It does not animate: the work itself needs the machine. */
defineProps<{ label: string; done: number }>();
</script>

<template>
  <label class="progress">
    {{ label }}
    <progress :value="done" max="1"></progress>
    <span class="percent">{{ Math.round(done * 100) }} %</span>
  </label>
</template>

<style scoped>
.progress {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0.4rem 0.75rem;
  align-items: center;
}

progress {
  grid-row: 2;
  width: 100%;
  height: 10px;
  overflow: hidden;
  appearance: none;
  background: var(--sail-deep);
  border: 0;
  border-radius: 5px;
}

progress::-webkit-progress-bar {
  background: var(--sail-deep);
}

progress::-webkit-progress-value,
progress::-moz-progress-bar {
  background: var(--tail);
}

.percent {
  grid-row: 2;
  font-variant-numeric: tabular-nums;
}
</style>
