<template>
  <div class="tiles"><slot /></div>
</template>

<style scoped>
/* Tiles to choose from, side by side. */
.tiles {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(92px, 1fr));
  gap: 6px;
}
</style>
