<script setup lang="ts">
import type { Watch } from '@kite-trail/core/contract/watch';
import type { TimedText } from '@kite-trail/core/formats/timed-text';
import type { SeenText } from '@kite-trail/core/search/typed';
import { msToSamples, samplesToMs } from '@kite-trail/core/trail/clock';
import { computed, nextTick, ref, watch } from 'vue';
import { clockText } from '../../look/time';
import { litWords } from './lit-words';
import { transcriptOf, type TranscriptLine } from './transcript';

/** All that is spoken and typed, chapter by chapter: to be read, searched, and to go from a word to the moment it is said. */
const props = defineProps<{
  captions: readonly TimedText[];
  typed: readonly SeenText[];
  chapters: Watch['chapters'];
  playhead: number;
}>();
const emit = defineEmits<{ seek: [samples: number]; close: [] }>();

const sought = ref('');
const list = ref<HTMLElement>();
const parts = computed(() => transcriptOf(props.captions, props.typed, props.chapters, sought.value));
const nowMs = computed(() => samplesToMs(props.playhead));
const isNow = ({ startMs, endMs }: TimedText) => nowMs.value >= startMs && nowMs.value < endMs;

const shareOf = ({ startMs, endMs }: TimedText) => (nowMs.value - startMs) / Math.max(1, endMs - startMs);

const keyOf = (line: TranscriptLine) =>
  line.kind === 'said' ? `said ${line.said.startMs}` : `typed ${line.typed.atSamples} ${line.typed.text}`;

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
      v-if="captions.length + typed.length > 0"
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
          <template v-for="line in part.lines" :key="keyOf(line)">
            <button
              v-if="line.kind === 'said'"
              class="words"
              dir="auto"
              :class="{ now: isNow(line.said) }"
              :title="clockText(msToSamples(line.said.startMs))"
              @click="emit('seek', msToSamples(line.said.startMs))"
            >
              <template v-if="isNow(line.said)">
                <span
                  v-for="(piece, n) in litWords(line.said.text, shareOf(line.said))"
                  :key="n"
                  :class="{ lit: piece.isLit }"
                  >{{ piece.word }}</span
                >
              </template>
              <template v-else>{{ line.said.text }}</template>
            </button>
            <button v-else class="typed" @click="emit('seek', line.typed.atSamples)">
              <span class="visually-hidden">On the page: </span><span dir="auto">{{ line.typed.text }}</span>
            </button>
          </template>
        </p>
      </template>
      <p v-if="parts.length === 0" role="status">Nothing like that is said or typed here.</p>
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

/* As it stands on the page, on lines of its own. */
.typed {
  display: block;
  padding: 0.2rem 0.7rem;
  margin: 0.2rem 0;
  white-space: pre-line;
  border-inline-start: 3px solid var(--line);
}

.typed:hover,
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
