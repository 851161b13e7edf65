<script setup lang="ts">
/** Why nothing can be watched, and the way out. */
const emit = defineEmits<{ again: [] }>();
</script>

<template>
  <main class="sorry">
    <img src="/kite.svg" alt="" />
    <p role="alert"><slot /></p>
    <button class="again" @click="emit('again')">Try again</button>
  </main>
</template>

<style scoped>
.sorry {
  max-width: 28rem;
  padding: 22vh 1.5rem;
  margin: 0 auto;
  font-size: 1.15rem;
  text-align: center;
}

.sorry img {
  width: 72px;
}

.again {
  min-height: 48px;
  padding: 0 1.5rem;
  cursor: pointer;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: var(--radius);
}
</style>
