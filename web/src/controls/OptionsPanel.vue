<script setup lang="ts">
/** What a popover holds: its rows one below another, as wide as they want where the screen lets them. */
defineProps<{ name: string; widthPx: number }>();
</script>

<template>
  <section class="panel" :aria-label="name" :style="{ width: `min(${widthPx}px, 86vw)` }"><slot /></section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 12px;
  max-height: 64dvh;

  /* Room for the outline of what has the focus. */
  padding: 3px;
  margin: -3px;
  overflow-y: auto;
}
</style>
