<script setup lang="ts">
import type { TaskId } from '@kite-trail/core/lesson/ids';
import { IconChevronLeft, IconChevronRight, IconLayoutGrid } from '@tabler/icons-vue';
import { useSessionStorage } from '@vueuse/core';
import { computed, onMounted } from 'vue';
import { useRoute } from 'vue-router';
import ActionButton from '../controls/ActionButton.vue';
import { usePens } from '../board/pens/pens';
import { useRecordingNow } from '../lesson/recording-now';
import { momentText } from '../look/time';
import { useMarking } from './marking';
import { useNeighbours } from './neighbours';

/** Whose work it is, and the way to the next one. */
const marking = useMarking();
const recording = useRecordingNow();
const route = useRoute();
const { go } = useNeighbours();
const pens = usePens();
const RED = '#c23b1e';
const hasRedPen = useSessionStorage<'taken' | 'not yet'>('kite-trail-red-pen', 'not yet');

onMounted(() => {
  if (marking.table === null) void marking.open(route.params.taskId as TaskId);
  takeRedPen();
});

/** What is written on it is told from what its student wrote, as is common practice; whoever takes another pen keeps that. */
function takeRedPen() {
  if (hasRedPen.value === 'taken') return;
  hasRedPen.value = 'taken';
  const red = pens.roll.findIndex(({ kind, color }) => kind === 'pen' && color === RED);
  if (red >= 0) pens.pick(red);
}

const told = computed(() => {
  const { handIn } = marking;
  if (!handIn) return '';
  return `· handed in ${momentText(handIn.handedAt)}${handIn.isLate ? ', late' : ''}${handIn.givenAt && !handIn.isChanged ? ', given back' : ''}`;
});
</script>

<template>
  <div v-if="!recording.isOn" class="line" role="group" aria-label="Whose work it is">
    <router-link :to="{ name: 'task', params: route.params }" class="back"
      ><icon-layout-grid :size="20" /> All replies</router-link
    >
    <span class="told"
      ><strong dir="auto">{{ marking.table?.task.title }}</strong> {{ told }}</span
    >
    <action-button
      :name="marking.before ? `Before: ${marking.before.called}` : 'Nobody before'"
      :icon="IconChevronLeft"
      :disabled="!marking.before"
      @click="go(marking.before)"
    />
    <strong v-if="marking.row" dir="auto">{{ marking.row.called }}</strong>
    <action-button
      :name="marking.next ? `Next: ${marking.next.called}` : 'Nobody after'"
      :icon="IconChevronRight"
      :disabled="!marking.next"
      @click="go(marking.next)"
    />
  </div>
</template>

<style scoped>
.line {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  padding: 0 1rem;
  background: var(--straw-pale);
}

.back {
  display: flex;
  gap: 0.4rem;
  align-items: center;
  min-height: 44px;
  color: var(--tail);
}

.told {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  color: var(--ink-soft);
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
