<script setup lang="ts">
/** What whoever stands before the school's door sees: a card to fill in. */
defineProps<{ lead: string }>();
</script>

<template>
  <main class="door">
    <img src="/kite.svg" alt="" class="kite" />
    <h1>Kite Trail</h1>
    <p class="lead">{{ lead }}</p>
    <div class="card"><slot /></div>
  </main>
</template>

<style scoped>
.door {
  max-width: 25rem;
  margin: 0 auto;
  padding: 11vh 1.25rem 3rem;
  text-align: center;
}

.kite {
  width: 76px;
}

h1 {
  margin: 0.5rem 0 0.25rem;
  font-size: 2rem;
}

.lead {
  margin: 0 0 1.75rem;
  color: var(--ink-soft);
}

.card {
  padding: 1.75rem;
  text-align: left;
  background: var(--paper);
  border-radius: 16px;
  box-shadow: var(--shadow);
}
</style>
