<script setup lang="ts">
import { NButton, NPopover } from 'naive-ui';
import { computed, nextTick, ref, watch, type Component } from 'vue';
import { useEventListener, useMediaQuery } from '@vueuse/core';

/** A button of a bar that opens a panel beneath it; on a phone, in the middle of the screen. */
defineProps<{ name: string; icon: Component; isQuiet: boolean }>();
const open = defineModel<boolean>('open', { required: true });

const isNarrow = useMediaQuery('(max-width: 900px)');
const trigger = ref<HTMLElement>();
/** A place is always said, for a popover without one looks for what it hangs on; one that closes stays where it was. */
const place = computed<{ x: number; y: number }>((before) => {
  if (!open.value || !trigger.value) return before ?? { x: 0, y: 0 };
  const { right, bottom } = trigger.value.getBoundingClientRect();
  return { x: isNarrow.value ? window.innerWidth / 2 : right, y: bottom };
});

// Whoever works with keys goes on within the panel, and comes back to its button.
const panel = ref<HTMLElement>();
watch(open, (is) => is && void nextTick(() => panel.value?.focus({ preventScroll: true })));
function close() {
  open.value = false;
  trigger.value?.querySelector('button')?.focus();
}

// The document hears it, not the panel alone: what had the focus may have gone when it was pressed. Nobody beyond hears it.
useEventListener(document, 'keydown', (event) => {
  if (!open.value || event.key !== 'Escape') return;
  event.stopPropagation();
  close();
});

function touchedElsewhere({ target }: MouseEvent) {
  // The button itself closes what it has opened.
  if (!trigger.value?.contains(target as Node)) open.value = false;
}
</script>

<template>
  <span ref="trigger" class="trigger">
    <n-button :aria-label="name" :aria-expanded="open" :quaternary="isQuiet" @click="open = !open">
      <template #icon><component :is="icon" :size="20" /></template>
      <template v-if="!isQuiet">{{ name }}</template>
    </n-button>
  </span>
  <n-popover
    v-bind="place"
    :show="open"
    trigger="manual"
    :placement="isNarrow ? 'bottom' : 'bottom-end'"
    :show-arrow="!isNarrow"
    @clickoutside="touchedElsewhere"
  >
    <div ref="panel" class="panel" tabindex="-1"><slot /></div>
  </n-popover>
</template>

<style scoped>
.trigger {
  flex: none;
}

.panel {
  outline: none;
}
</style>
