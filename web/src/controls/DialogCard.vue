<script setup lang="ts">
import { NModal } from 'naive-ui';

/** A dialog in the middle of the screen, named by its title for those who do not see it, too. */
defineProps<{ title: string }>();
</script>

<template>
  <n-modal preset="card" :title="title" :aria-label="title">
    <slot />
    <template v-if="$slots.footer" #footer>
      <div class="buttons"><slot name="footer" /></div>
    </template>
  </n-modal>
</template>

<style scoped>
/* What is done with it stands at its end. */
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
  justify-content: flex-end;
}
</style>
