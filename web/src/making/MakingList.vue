<script setup lang="ts">
import MakingRow from './MakingRow.vue';
import type { Making } from './makings';

/** Things that are being made, in their order. */
defineProps<{ list: readonly Making[] }>();
</script>

<template>
  <ul v-if="list.length > 0" class="list">
    <li v-for="making in list" :key="making.id"><making-row :making /></li>
  </ul>
</template>

<style scoped>
.list {
  display: grid;
  gap: 0.75rem;
  padding: 0;
  margin: 0;
  list-style: none;
}
</style>
