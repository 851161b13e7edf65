<script setup lang="ts">
import type { Criterion, Reply } from '@kite-trail/core/contract/task';
import type { PageId } from '@kite-trail/core/lesson/ids';
import { IconMicrophone } from '@tabler/icons-vue';
import { computed } from 'vue';
import { clockText, momentText, spokenTime } from '../look/time';
import { draftUrl, pageUrl } from '../server/tasks';
import { sumOf, type ReplyState } from './marks';

/** A student’s reply: what it looks like, and how it stands. */
const { reply, page, criteria, state, isLive, choices } = defineProps<{
  called: string;
  state: ReplyState;
  reply: Reply | null;
  /** The page that is seen; `null` for the picture of the whole. */
  page: PageId | null;
  criteria: readonly Criterion[];
  isChosen: boolean;
  /** It is asked now. */
  isLive: boolean;
  choices: readonly string[];
}>();
const emit = defineEmits<{ open: []; choose: [] }>();

const LABELS: Record<ReplyState, string> = {
  new: 'New',
  opened: 'Opened',
  given: 'Given back',
  'taken-back': 'Taken back',
  begun: 'Begun',
  missing: 'Missing',
};
const handIn = computed(() => reply?.handIn ?? null);
const picture = computed(() => {
  // What is asked now is seen while it is written.
  if (isLive && reply) return draftUrl(reply.id, reply.pictureVersion);
  if (!handIn.value) return null;
  const { lesson, pictureVersion } = handIn.value;
  return page ? pageUrl(lesson, page, pictureVersion) : `/api/lessons/${lesson}/picture?v=${pictureVersion}`;
});
const points = computed(() => {
  const sum = handIn.value && sumOf(handIn.value);
  return sum === null ? null : `${sum} of ${criteria.reduce((all, one) => all + one.points, 0)}`;
});
const chosen = computed(() => {
  const choice = isLive ? reply?.choice : handIn.value?.choice;
  return choice == null ? null : choices[choice];
});
const told = computed(() => {
  if (!handIn.value) return '';
  const { handedAt, saidAt, isLate, seenAt, givenAt, answer } = handIn.value;
  const when = `${momentText(handedAt)}${isLate ? ', late' : ''}`;
  // What a device kept without a network was handed in before it came.
  const said = saidAt ? ` (handed in without a network ${momentText(saidAt)})` : '';
  const seen = givenAt ? (seenAt ? '. Seen' : '. Not seen yet') : '';
  const answered = answer ? '. They have answered' : '';
  return `${when}${said}${seen}${answered}`;
});
</script>

<template>
  <article class="tile" :class="state">
    <div class="picture">
      <button class="open" :disabled="!handIn" :aria-label="`${called}: ${LABELS[state]}`" @click="emit('open')">
        <img v-if="picture" :src="picture" alt="" loading="lazy" />
        <span v-else>{{ LABELS[state] }}</span>
      </button>
      <span v-if="handIn && handIn.lengthSamples > 0" class="length">
        <icon-microphone :size="15" aria-hidden="true" />
        <span class="visually-hidden">{{ spokenTime(handIn.lengthSamples) }}</span>
        <span aria-hidden="true">{{ clockText(handIn.lengthSamples) }}</span>
      </span>
    </div>
    <div class="line">
      <label class="name">
        <input
          v-if="picture"
          type="checkbox"
          :checked="isChosen"
          :aria-label="`Choose ${called}`"
          @change="emit('choose')"
        />
        <span dir="auto">{{ called }}</span>
      </label>
      <span class="state">{{ LABELS[state] }}</span>
    </div>
    <p v-if="chosen" class="chosen" dir="auto">{{ chosen }}</p>
    <p v-if="told" class="told" :class="{ late: handIn?.isLate }">
      <strong v-if="points" class="points">{{ points }} points. </strong>{{ told }}
    </p>
  </article>
</template>

<style scoped>
.tile {
  display: grid;
  gap: 0.35rem;
  align-content: start;
  height: 100%;
  padding: 0.6rem;
  background: var(--paper);
  border-radius: 14px;
  box-shadow: var(--shadow);
}

.missing,
.begun,
.taken-back {
  box-shadow: none;
}

.picture {
  position: relative;
}

.open {
  display: grid;
  place-items: center;
  width: 100%;
  aspect-ratio: 4 / 3;
  padding: 0;
  overflow: hidden;
  font: inherit;
  color: var(--ink-soft);
  cursor: pointer;
  background: var(--sail-deep);
  border: 1px solid var(--line);
  border-radius: 8px;
}

.open:disabled {
  cursor: default;
}

.open:hover:not(:disabled) {
  border-color: var(--tail);
}

.open:focus-visible {
  outline: 3px solid var(--tail);
}

img {
  width: 100%;
  height: 100%;
  object-fit: contain;
  background: #fff;
}

.length {
  position: absolute;
  right: 6px;
  bottom: 6px;
  display: flex;
  gap: 3px;
  align-items: center;
  padding: 2px 7px;
  pointer-events: none;
  font-size: 0.9rem;
  color: #fff;
  background: rgb(31 42 68 / 85%);
  border-radius: 20px;
}

.line {
  display: flex;
  gap: 0.5rem;
  align-items: center;
}

.name {
  display: flex;
  flex: 1;
  gap: 0.5rem;
  align-items: center;
  min-width: 0;
  min-height: 32px;
  font-weight: 650;
}

.name span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.name input {
  width: 20px;
  height: 20px;
  accent-color: var(--tail);
}

.state,
.told {
  font-size: 0.92rem;
  color: var(--ink-soft);
}

.new .state {
  font-weight: 650;
  color: var(--tail);
}

.points {
  font-variant-numeric: tabular-nums;
}

.told {
  margin: 0;
}

.chosen {
  margin: 0;
  font-weight: 650;
}

.late {
  color: var(--kite-deep);
}
</style>
