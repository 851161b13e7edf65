<script setup lang="ts">
import type { Watch } from '@kite-trail/core/contract/watch';
import type { TimedText } from '@kite-trail/core/formats/timed-text';
import { msToSamples, samplesToMs } from '@kite-trail/core/trail/clock';
import { computed, nextTick, ref, watch } from 'vue';
import { clockText } from '../../look/time';
import { litWords } from './lit-words';

/** All that is spoken, chapter by chapter: to be read, searched, and to go from a word to the moment it is said. */
const props = defineProps<{ captions: readonly TimedText[]; chapters: Watch['chapters']; playhead: number }>();
const emit = defineEmits<{ seek: [samples: number]; close: [] }>();

const sought = ref('');
const list = ref<HTMLElement>();
const words = computed(() => sought.value.trim().toLocaleLowerCase());

const middleOf = ({ startMs, endMs }: TimedText) => msToSamples((startMs + endMs) / 2);

/** The captions of each chapter; what comes before the first has no title. */
const parts = computed(() => {
  const starts = [{ startSamples: -1, title: '' }, ...props.chapters];
  return starts
    .map(({ startSamples, title }, i) => {
      const end = starts[i + 1]?.startSamples ?? Infinity;
      const own = props.captions.filter((one) => middleOf(one) >= startSamples && middleOf(one) < end);
      return {
        startSamples,
        title,
        captions: own.filter(({ text }) => text.toLocaleLowerCase().includes(words.value)),
      };
    })
    .filter(({ captions, title }) => captions.length > 0 || (title !== '' && words.value === ''));
});
const nowMs = computed(() => samplesToMs(props.playhead));
const isNow = ({ startMs, endMs }: TimedText) => nowMs.value >= startMs && nowMs.value < endMs;

const shareOf = ({ startMs, endMs }: TimedText) => (nowMs.value - startMs) / Math.max(1, endMs - startMs);

// What is said just now stays in sight.
watch(
  () => props.captions.findIndex(isNow),
  async (at) => {
    await nextTick();
    if (at >= 0) list.value?.querySelector('.now')?.scrollIntoView({ block: 'nearest' });
  },
  { immediate: true },
);
</script>

<template>
  <section class="panel" aria-label="Transcript">
    <header>
      <h2>Transcript</h2>
      <button class="close" aria-label="Close the transcript" @click="emit('close')">×</button>
    </header>
    <input
      v-if="captions.length > 0"
      v-model="sought"
      type="search"
      placeholder="Search"
      aria-label="Search the transcript"
    />
    <div ref="list" class="list">
      <template v-for="part in parts" :key="part.startSamples">
        <h3 v-if="part.title">
          <button @click="emit('seek', part.startSamples)">
            <span class="time">{{ clockText(part.startSamples) }}</span> {{ part.title }}
          </button>
        </h3>
        <p class="said">
          <button
            v-for="one in part.captions"
            :key="one.startMs"
            class="words"
            dir="auto"
            :class="{ now: isNow(one) }"
            :title="clockText(msToSamples(one.startMs))"
            @click="emit('seek', msToSamples(one.startMs))"
          >
            <template v-if="isNow(one)">
              <span v-for="(piece, n) in litWords(one.text, shareOf(one))" :key="n" :class="{ lit: piece.isLit }">{{
                piece.word
              }}</span>
            </template>
            <template v-else>{{ one.text }}</template>
          </button>
        </p>
      </template>
      <p v-if="parts.length === 0" role="status">Nobody says that here.</p>
    </div>
  </section>
</template>

<style scoped src="../beside-panel.css"></style>
<style scoped>
.panel {
  gap: 0.6rem;
}

:where(button:not(.close)) {
  padding: 0;
  font: inherit;
  color: inherit;
  text-align: start;
  cursor: pointer;
  background: none;
  border: 0;
}

input {
  min-height: 44px;
  padding: 0 0.7rem;
  font: inherit;
  color: inherit;
  background: var(--sail);
  border: 1px solid var(--line);
  border-radius: var(--radius);
}

.list {
  overflow-y: auto;
  line-height: var(--line-height, 1.55);
}

h3 button {
  min-height: 44px;
  font-weight: 650;
}

.time {
  font-variant-numeric: tabular-nums;
  color: var(--tail);
}

.words {
  display: inline;
  padding: 0.15rem 0.2rem;
  margin-right: 0.2rem;
  border-radius: 5px;
}

.words:hover {
  background: var(--sail-deep);
}

.now {
  background: var(--straw-pale);
}

.lit {
  text-decoration: underline;
  text-decoration-thickness: 2px;
  text-underline-offset: 4px;
}
</style>
