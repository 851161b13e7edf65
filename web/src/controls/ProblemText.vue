<template>
  <p class="problem" role="alert"><slot /></p>
</template>

<style scoped>
/* What went wrong, beside what it is about. */
.problem {
  min-height: 1.4em;
  margin: 0;
  overflow-wrap: anywhere;
  color: var(--kite-deep);
}
</style>
