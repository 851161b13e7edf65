<script setup lang="ts">
/** Actions below one another in a panel: with one of them, the panel has done what it was opened for. */
const emit = defineEmits<{ done: [] }>();

const done = ({ target }: MouseEvent) => (target as Element).closest('button') && emit('done');
</script>

<template>
  <div class="rows" @click="done"><slot /></div>
</template>

<style scoped>
.rows {
  display: grid;
  gap: 4px;
  justify-items: start;
}
</style>
