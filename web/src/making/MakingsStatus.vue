<script setup lang="ts">
import { IconCircleCheck, IconPackageExport } from '@tabler/icons-vue';
import { NPopover } from 'naive-ui';
import { computed } from 'vue';
import MakingList from './MakingList.vue';
import { useMakings } from './makings';

/** What is being made of lessons, from whatever screen: there while there is something. */
const makings = useMakings();

const percent = computed(() => {
  const { open } = makings;
  return Math.round((open.reduce((sum, { done }) => sum + done, 0) / open.length) * 100);
});
const text = computed(() => {
  const { length } = makings.open;
  if (length > 0) return `${length === 1 ? 'Making 1 file' : `Making ${length} files`} · ${percent.value} %`;
  return makings.list.length === 1 ? '1 file made' : `${makings.list.length} files made`;
});
</script>

<template>
  <n-popover
    v-if="makings.list.length > 0"
    trigger="click"
    placement="bottom"
    :show-arrow="false"
    style="width: min(26rem, calc(100vw - 24px))"
  >
    <template #trigger>
      <button class="chip" :aria-label="text" title="Files that are being made">
        <component
          :is="makings.open.length > 0 ? IconPackageExport : IconCircleCheck"
          :size="20"
          class="icon"
          aria-hidden="true"
        />
        <span class="text">{{ text }}</span>
      </button>
    </template>
    <making-list :list="makings.list" />
    <p class="note">They go on whatever you do here, and wait while you record.</p>
  </n-popover>
</template>

<style scoped src="../controls/chip.css"></style>

<style scoped>
.icon {
  color: var(--tail);
}

.note {
  margin: 0.75rem 0 0;
  color: var(--ink-soft);
}
</style>
