<script setup lang="ts">
import {
  IconArrowBarToUp,
  IconDownload,
  IconPlayerPause,
  IconPlayerPlay,
  IconPrinter,
  IconRefresh,
  IconShare2,
  IconX,
} from '@tabler/icons-vue';
import { computed } from 'vue';
import { useAttempt } from '../controls/attempt';
import ProblemText from '../controls/ProblemText.vue';
import ActionButton from '../controls/ActionButton.vue';
import WorkProgress from '../controls/WorkProgress.vue';
import { useMakings, type Making } from './makings';

/** Something that is being made, or was: how far it is, and what can be done with it. */
const { making } = defineProps<{ making: Making }>();
const makings = useMakings();

const MINUTE = 60;
const waits = computed(() => makings.open.filter(({ state }) => state === 'waiting'));
const isFirst = computed(() => waits.value[0]?.id === making.id);
const left = computed(() => {
  const { secondsLeft } = making;
  if (secondsLeft === null) return '';
  return secondsLeft < MINUTE ? `${secondsLeft} s left` : `${Math.ceil(secondsLeft / MINUTE)} min left`;
});
const state = computed(() => {
  if (making.state === 'waiting') return 'Waiting for its turn';
  if (making.state === 'paused') return 'Paused';
  if (making.state === 'making') return makings.isStoodBack ? 'Waits while you record' : left.value || 'Being made';
  return making.problem;
});
const isPaper = computed(() => making.url !== null && making.name.endsWith('.pdf'));

/** Phones and tablets hand files on to other programs; where nothing takes such a file, nothing is offered. */
const sent = computed(() => {
  const file = making.url && makings.fileOf(making.id);
  const data = file ? { files: [file], title: file.name } : null;
  return data && navigator.canShare?.(data) ? data : null;
});
const { problem, attempt } = useAttempt();
const send = () =>
  attempt(() =>
    navigator.share(sent.value!).catch((error: Error) => {
      // Whoever changes their mind need not be told.
      if (error.name !== 'AbortError') throw error;
    }),
  );
/** Browsers show a PDF with all that printing needs. */
const openToPrint = () => void window.open(making.url!, '_blank', 'noopener');
</script>

<template>
  <div class="row" :class="making.state" role="group" :aria-label="making.name">
    <a v-if="making.url" class="save" :href="making.url" :download="making.name">
      <icon-download :size="22" aria-hidden="true" /> <span dir="auto">Save {{ making.name }}</span>
    </a>
    <template v-else>
      <work-progress v-if="making.state !== 'failed'" :label="making.name" :done="making.done" />
      <span v-else class="name" dir="auto">{{ making.name }}</span>
      <span class="state" role="status">{{ state }}</span>
    </template>
    <span class="actions">
      <action-button v-if="isPaper" name="Open it to print" :icon="IconPrinter" @click="openToPrint" />
      <action-button v-if="sent" name="Send it on" :icon="IconShare2" @click="send" />
      <action-button
        v-if="making.state === 'waiting' && !isFirst"
        name="Make it next"
        :icon="IconArrowBarToUp"
        @click="makings.hurry(making.id)"
      />
      <action-button
        v-if="making.state === 'making' || making.state === 'waiting'"
        name="Pause this"
        :icon="IconPlayerPause"
        @click="makings.pause(making.id)"
      />
      <action-button
        v-if="making.state === 'paused'"
        name="Go on with this"
        :icon="IconPlayerPlay"
        @click="makings.goOn(making.id)"
      />
      <action-button
        v-if="making.state === 'failed'"
        name="Try again"
        :icon="IconRefresh"
        @click="makings.again(making.id)"
      />
      <action-button
        :name="making.url || making.state === 'failed' ? 'Put away' : 'Give it up'"
        :icon="IconX"
        @click="makings.remove(making.id)"
      />
    </span>
    <problem-text v-if="problem" class="problem">{{ problem }}</problem-text>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0.15rem 0.5rem;
  align-items: center;
}

.name {
  grid-column: 1;
  overflow: hidden;
  font-weight: 650;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.state {
  grid-column: 1;
  color: var(--ink-soft);
  font-variant-numeric: tabular-nums;
}

.failed .state {
  color: var(--kite-deep);
}

.problem {
  grid-column: 1 / -1;
}

.actions {
  display: flex;
  grid-row: 1 / span 2;
  grid-column: 2;
}

.save {
  display: flex;
  gap: 0.5rem;
  grid-row: 1 / span 2;
  align-items: center;
  min-height: 44px;
  padding: 0.5rem 0.9rem;
  font-weight: 650;
  color: var(--on-tail);
  text-decoration: none;
  overflow-wrap: anywhere;
  background: var(--tail);
  border-radius: var(--radius);
}
</style>
