<script setup lang="ts">
/** One of several things to choose from: a picture of it, and its name. */
defineProps<{ chosen: boolean; name: string }>();
</script>

<template>
  <button class="tile" :aria-pressed="chosen">
    <span class="sight"><slot /></span>
    {{ name }}
  </button>
</template>

<style scoped>
.tile {
  display: grid;
  gap: 4px;
  align-content: start;
  justify-items: center;
  padding: 4px;
  font-size: 0.85rem;
  line-height: 1.15;
  cursor: pointer;
  background: transparent;
  border: 2px solid transparent;
  border-radius: 10px;
}

.tile[aria-pressed='true'] {
  background: var(--straw-pale);
  border-color: var(--straw);
}

.sight {
  display: grid;
  place-items: center;
  width: 100%;
}
</style>
