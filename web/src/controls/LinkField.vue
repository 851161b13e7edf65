<script setup lang="ts">
import { IconCopy } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { ref, watch } from 'vue';

/** An address to be given to somebody: it is seen, and copied by one touch. */
const { address } = defineProps<{ address: string; label: string }>();
const COPIED_FOR_MS = 2000;
const isCopied = ref(false);

async function copy() {
  await navigator.clipboard.writeText(address);
  isCopied.value = true;
  setTimeout(() => (isCopied.value = false), COPIED_FOR_MS);
}
watch(
  () => address,
  () => (isCopied.value = false),
);
</script>

<template>
  <input
    class="address"
    readonly
    :value="address"
    :aria-label="label"
    @focus="($event.target as HTMLInputElement).select()"
  />
  <div class="row">
    <n-button type="primary" @click="copy">
      <template #icon><icon-copy /></template>{{ isCopied ? 'Copied' : 'Copy' }}
    </n-button>
    <slot />
  </div>
</template>

<style scoped>
.address {
  width: 100%;
  padding: 0.6rem 0.7rem;
  font: inherit;
  font-size: 0.95rem;
  color: inherit;
  text-overflow: ellipsis;
  background: var(--sail);
  border: 1px solid var(--line);
  border-radius: 8px;
}

.row {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(7rem, 1fr));
  gap: 0.5rem;
}
</style>
