<script setup lang="ts">
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { IconAlertTriangle, IconCircleCheck, IconClockPause, IconRefresh } from '@tabler/icons-vue';
import { NPopover } from 'naive-ui';
import { computed } from 'vue';
import { useOutbox } from '../app/outbox';
import type { SetAside } from '../outbox/set-aside';
import SetAsideList from './SetAsideList.vue';

/** How what was made here stands: at the school, on its way, waiting and for what, or set aside. */
const { lesson = null, isKeeping = false } = defineProps<{
  /** The lesson that is open; without one, it speaks of all, and only where there is something to say. */
  lesson?: LessonId | null;
  /** Something is on screen that is not written here yet. */
  isKeeping?: boolean;
}>();

defineSlots<{
  /** What can be done with a recording of the open lesson that was set aside. */
  recording?(props: { item: SetAside }): unknown;
}>();

const outbox = useOutbox();

const WAITS = { network: 'waiting for the network', 'sign-in': 'sign in again' } as const;
const waits = computed(() => {
  const { waitsFor } = outbox.status;
  if (!waitsFor) return null;
  return waitsFor.for === 'school' ? waitsFor.message : WAITS[waitsFor.for];
});
const isOwed = computed(() => isKeeping || (lesson ? outbox.owes(lesson) : outbox.status.owed.size > 0));
const aside = computed(() => outbox.status.setAside.length);
const state = computed(() => {
  if (!isOwed.value) return { text: 'Saved', icon: IconCircleCheck };
  if (waits.value) return { text: `Not saved yet: ${waits.value}`, icon: IconClockPause };
  return { text: 'Saving…', icon: IconRefresh };
});
const name = computed(() => (aside.value > 0 ? `${state.value.text} ${aside.value} set aside` : state.value.text));
const isNeeded = computed(() => lesson !== null || isOwed.value || aside.value > 0);

const counted = (count: number, one: string, many: string) => (count === 1 ? one : `${count} ${many}`);
/** What is only here so far. */
const here = computed(() => {
  const { owed, filesOwed } = outbox.status;
  const all = [...owed.values()].reduce((sum, count) => sum + count, 0);
  if (all === 0) return `${aside.value > 0 ? 'All else' : 'All'} that was made here is at the school.`;
  const seconds = outbox.secondsToSend > 0 ? `${outbox.secondsToSend} seconds of recording` : null;
  const files = filesOwed > 0 ? counted(filesOwed, 'a file', 'files') : null;
  const what = [seconds, files].filter((one) => one !== null).join(' and ') || 'Your last changes';
  const verb = what === 'a file' ? 'is' : 'are';
  return `${what[0].toUpperCase()}${what.slice(1)} ${verb} safe on this device, and ${verb} not at the school yet${waits.value ? `: ${waits.value}` : ''}.`;
});
</script>

<template>
  <n-popover
    v-if="isNeeded"
    trigger="click"
    display-directive="show"
    placement="bottom"
    :show-arrow="false"
    style="max-width: min(30rem, calc(100vw - 24px))"
  >
    <template #trigger>
      <button class="chip" :aria-label="name" title="What is safe, and where">
        <component :is="state.icon" :size="20" class="icon" aria-hidden="true" />
        <span class="text" role="status">{{ state.text }}</span>
        <span v-if="aside > 0" class="aside" role="status"
          ><icon-alert-triangle :size="17" /> {{ aside }} set aside</span
        >
      </button>
    </template>
    <div class="panel">
      <p>{{ here }}</p>
      <p v-if="outbox.isFull" class="warned">
        This device keeps nothing just now: it has no room left, or another window holds on to it. What is made now is
        safe only at the school.
      </p>
      <p v-else-if="outbox.isPersistent === false" class="soft">
        This browser may clear what waits here when the device runs short of room. Stay until all is at the school.
      </p>
      <set-aside-list :lesson>
        <template #recording="{ item }"><slot name="recording" :item="item"></slot></template>
      </set-aside-list>
    </div>
  </n-popover>
</template>

<style scoped src="../controls/chip.css"></style>

<style scoped>
.aside {
  display: flex;
  gap: 0.25rem;
  align-items: center;
  font-weight: 600;
  color: var(--kite-deep);
  white-space: nowrap;
}

.panel p {
  margin: 0 0 0.5rem;
}

.warned {
  color: var(--kite-deep);
}

.soft {
  color: var(--ink-soft);
}
</style>
