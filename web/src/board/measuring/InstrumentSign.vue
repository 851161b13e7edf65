<script setup lang="ts">
import type { Instrument } from '@kite-trail/core/lesson/content';

/** A measuring tool as a sign, in outline. */
defineProps<{ instrument: Instrument; size: number }>();

const OUTLINES: Record<Instrument, string> = {
  ruler: 'M2 8.5h20v7H2z M6 8.5v3 M10 8.5v4 M14 8.5v3 M18 8.5v4',
  'set-square': 'M4 3v17h17z M8 12v4h4z',
  protractor: 'M2 18a10 10 0 0 1 20 0z M9 18a3 3 0 0 1 6 0 M12 8v2.5 M4.9 11l1.8 1.8 M19.1 11l-1.8 1.8',
  compasses: 'M12 3v2.5 M10 7.5a2 2 0 1 0 4 0a2 2 0 1 0 -4 0 M11 9.3L6 21 M13 9.3L18 21 M4 15.5a10 6 0 0 0 16 0',
};
</script>

<template>
  <svg
    :width="size"
    :height="size"
    viewBox="0 0 24 24"
    fill="none"
    stroke="currentColor"
    stroke-width="1.5"
    stroke-linecap="round"
    stroke-linejoin="round"
    aria-hidden="true"
  >
    <path :d="OUTLINES[instrument]" />
  </svg>
</template>
