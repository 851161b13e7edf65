<script setup lang="ts">
import { NModal } from 'naive-ui';

/** A dialog in the middle of the screen, named by its title for those who do not see it, too. */
defineProps<{ title: string }>();
</script>

<template>
  <n-modal preset="card" :title="title" :aria-label="title">
    <slot />
    <template v-if="$slots.footer" #footer><slot name="footer" /></template>
  </n-modal>
</template>
