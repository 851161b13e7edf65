<script setup lang="ts">
import type { Watch } from '@kite-trail/core/contract/watch';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { computed } from 'vue';
import { clockText, spokenTime } from '../look/time';
import { SPEEDS } from '../playback/player';
import type { ProgrammePlayer } from '../playback/programme-player';
import type { usePlayer } from '../playback/use-player';
import { BACK_SECONDS } from './watch-keys';

/** Big plain controls: where to play, page or chapter, captions, speed. */
const props = defineProps<{
  player: ReturnType<typeof usePlayer<ProgrammePlayer>>;
  length: number;
  chapters: Watch['chapters'];
  pageCount: number;
  page: number;
  hasCaptions: boolean;
  /** Pages are chosen from beneath the controls. */
  listsPages: boolean;
}>();
const readsAlong = defineModel<boolean>('readsAlong', { required: true });
const isReading = defineModel<boolean>('isReading', { required: true });
const emit = defineEmits<{ page: [number: number]; skip: [seconds: number] }>();

const chapterNumber = computed(() =>
  props.chapters.findLastIndex(({ startSamples }) => startSamples <= props.player.samples.value),
);
/** Where chapters begin, as parts of the whole. */
const chapterMarks = computed(() =>
  props.chapters
    .filter(({ startSamples }) => startSamples > 0)
    .map(({ startSamples }) => startSamples / Math.max(1, props.length)),
);

function nextSpeed() {
  const at = SPEEDS.findIndex((speed) => speed === props.player.rate.value);
  props.player.setRate(SPEEDS[(at + 1) % SPEEDS.length]);
}
</script>

<template>
  <div class="controls">
    <div class="bar">
      <span v-for="part in chapterMarks" :key="part" class="mark" :style="{ left: `${part * 100}%` }"></span>
      <input
        class="along"
        type="range"
        min="0"
        :max="length"
        :step="secondsToSamples(0.1)"
        :value="player.samples.value"
        aria-label="Where to play"
        :aria-valuetext="spokenTime(player.samples.value)"
        :style="{ '--done': `${(player.samples.value / Math.max(1, length)) * 100}%` }"
        @input="player.seek(Number(($event.target as HTMLInputElement).value))"
      />
    </div>
    <div class="row">
      <button class="play" :aria-label="player.playing.value ? 'Pause' : 'Play'" @click="player.toggle()">
        <svg viewBox="0 0 24 24" aria-hidden="true">
          <path :d="player.playing.value ? 'M6 4h4v16H6zM14 4h4v16h-4z' : 'M6 3.5v17l15-8.5z'" />
        </svg>
      </button>
      <button class="plain" @click="emit('skip', -BACK_SECONDS)">
        −{{ BACK_SECONDS }} s<span class="visually-hidden">, back</span>
      </button>
      <span class="clock">{{ clockText(player.samples.value) }} / {{ clockText(length) }}</span>
      <span class="grow"></span>
      <label v-if="chapters.length > 1" class="choice">
        <span class="visually-hidden">Chapter</span>
        <select
          :value="chapterNumber"
          @change="player.seek(chapters[Number(($event.target as HTMLSelectElement).value)].startSamples)"
        >
          <option v-for="(one, n) in chapters" :key="one.startSamples" :value="n">{{ one.title }}</option>
        </select>
      </label>
      <label v-else-if="pageCount > 1 && !listsPages" class="choice">
        Page
        <select :value="page" @change="emit('page', Number(($event.target as HTMLSelectElement).value))">
          <option v-for="n in pageCount" :key="n" :value="n">{{ n }}</option>
        </select>
      </label>
      <template v-if="hasCaptions">
        <button class="plain" :aria-pressed="readsAlong" title="Captions" @click="readsAlong = !readsAlong">
          Captions
        </button>
        <button class="plain" :aria-expanded="isReading" @click="isReading = !isReading">Transcript</button>
      </template>
      <button class="plain" :aria-label="`Speed ${player.rate.value} times`" @click="nextSpeed">
        {{ player.rate.value }} ×
      </button>
    </div>
  </div>
</template>

<style scoped>
.controls {
  width: 100%;
  max-width: 72rem;
  padding: 0.5rem 0 0.9rem;
  margin: 0 auto;
}

.bar {
  position: relative;
}

/* Where a chapter begins. */
.mark {
  position: absolute;
  top: 50%;
  z-index: 1;
  width: 3px;
  height: 16px;
  margin: -8px 0 0 -1.5px;
  pointer-events: none;
  background: var(--kite);
  border-radius: 2px;
}

.along {
  display: block;
  width: 100%;
  height: 36px;
  margin: 0;
  appearance: none;
  cursor: pointer;
  background: transparent;
}

.along::-webkit-slider-runnable-track {
  height: 8px;
  background: linear-gradient(to right, var(--tail) var(--done), var(--track) var(--done));
  border-radius: 4px;
}

.along::-moz-range-track {
  height: 8px;
  background: linear-gradient(to right, var(--tail) var(--done), var(--track) var(--done));
  border-radius: 4px;
}

.along::-webkit-slider-thumb {
  width: 26px;
  height: 26px;
  margin-top: -9px;
  appearance: none;
  background: var(--tail);
  border: 3px solid var(--paper);
  border-radius: 50%;
}

.row {
  display: flex;
  gap: 0.6rem;
  align-items: center;
}

.play {
  display: grid;
  flex: none;
  place-items: center;
  width: 60px;
  height: 60px;
  cursor: pointer;
  background: var(--tail);
  border: 0;
  border-radius: 50%;
}

.play svg {
  width: 28px;
  fill: var(--on-tail);
}

.plain[aria-pressed='true'],
.plain[aria-expanded='true'] {
  background: var(--straw-pale);
  border-color: var(--straw);
}

.clock {
  font-variant-numeric: tabular-nums;
}

.grow {
  flex: 1;
}

.row {
  gap: 0.35rem;
}

@media (max-width: 760px) {
  .row {
    flex-wrap: wrap;
  }
}

@media (max-width: 560px) {
  .row {
    gap: 0.35rem;
  }

  .choice {
    font-size: 0;
  }

  .choice select {
    max-width: 8.5rem;
    font-size: 1rem;
  }
}
</style>
