<script setup lang="ts">
import { IconPackageImport } from '@tabler/icons-vue';
import { computed } from 'vue';
import { useArrivals } from './arrivals';

/** Lessons that are on their way from an archive, while its dialog is closed. */
const arrivals = useArrivals();
const text = computed(() => {
  const { stage } = arrivals;
  const done = stage?.is === 'coming' || stage?.is === 'looking' ? Math.round(stage.done * 100) : null;
  return done === null ? null : `Bringing lessons in · ${done} %`;
});
</script>

<template>
  <button
    v-if="text && !arrivals.isShown"
    class="chip"
    :aria-label="text"
    title="Lessons from an archive"
    @click="arrivals.isShown = true"
  >
    <icon-package-import :size="20" class="icon" aria-hidden="true" />
    <span class="text">{{ text }}</span>
  </button>
</template>

<style scoped src="../../controls/chip.css"></style>
