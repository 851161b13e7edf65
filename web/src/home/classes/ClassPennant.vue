<script setup lang="ts">
import type { ClassColor } from '@kite-trail/core/contract/class';

/** A class at a glance: a pennant of its colour. */
defineProps<{ color: ClassColor }>();
</script>

<template>
  <svg class="pennant" viewBox="0 0 22 18" aria-hidden="true">
    <path d="M2 1v16" class="staff" />
    <path d="M3 2 21 7 3 12Z" :style="{ fill: `var(--class-${color})` }" />
  </svg>
</template>

<style scoped>
.pennant {
  flex: none;
  width: 22px;
  height: 18px;
}

.staff {
  stroke: var(--ink-soft);
  stroke-width: 2;
  stroke-linecap: round;
}
</style>
