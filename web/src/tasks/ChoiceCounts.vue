<script setup lang="ts">
import { computed } from 'vue';

/** How many chose what. */
const { choices, chosen } = defineProps<{ choices: readonly string[]; chosen: readonly (number | null)[] }>();
const counts = computed(() => choices.map((_, n) => chosen.filter((one) => one === n).length));
const most = computed(() => Math.max(1, ...counts.value));
</script>

<template>
  <ul class="counts" aria-label="What was chosen">
    <li v-for="(choice, n) in choices" :key="n">
      <span dir="auto">{{ choice }}</span>
      <span class="bar" aria-hidden="true"><span :style="{ width: `${(100 * counts[n]) / most}%` }"></span></span>
      <strong>{{ counts[n] }}</strong>
    </li>
  </ul>
</template>

<style scoped>
.counts {
  display: grid;
  gap: 0.4rem;
  max-width: 40rem;
  padding: 0;
  margin: 0 0 1.2rem;
  list-style: none;
}

li {
  display: grid;
  grid-template-columns: minmax(6rem, 14rem) 1fr 2rem;
  gap: 0.8rem;
  align-items: center;
}

.bar {
  height: 18px;
  background: var(--sail-deep);
  border-radius: 4px;
}

.bar span {
  display: block;
  height: 100%;
  background: var(--tail);
  border-radius: 4px;
  transition: width 0.3s;
}
</style>
