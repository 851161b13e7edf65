<script setup lang="ts">
import type { Watch } from '@kite-trail/core/contract/watch';
import { computed } from 'vue';
import { clockText } from '../../look/time';
import type { ProgrammePlayer } from '../../playback/programme-player';
import type { usePlayer } from '../../playback/use-player';
import { VOICE_SPEEDS, type Pace } from './pace';
import { BACK_SECONDS } from './watch-keys';

/** What lies beside the page, or below it on a phone. */
export type Beside = 'transcript' | 'pages' | 'questions' | 'ways';

/** Big plain controls: play, back, chapter, captions, speed, and what lies beside the page. */
const props = defineProps<{
  player: ReturnType<typeof usePlayer<ProgrammePlayer>>;
  pace: Pace;
  length: number;
  chapters: Watch['chapters'];
  hasPages: boolean;
  hasCaptions: boolean;
  hasTranscript: boolean;
  hasQuestions: boolean;
}>();
const readsAlong = defineModel<boolean>('readsAlong', { required: true });
const beside = defineModel<Beside | null>('beside', { required: true });
const emit = defineEmits<{ skip: [seconds: number] }>();
const { voice } = props.pace;

const chapterNumber = computed(() =>
  props.chapters.findLastIndex(({ startSamples }) => startSamples <= props.player.samples.value),
);
const PANELS = computed(() => [
  ...(props.hasPages ? [{ which: 'pages' as const, name: 'Pages' }] : []),
  ...(props.hasTranscript ? [{ which: 'transcript' as const, name: 'Transcript' }] : []),
  ...(props.hasQuestions ? [{ which: 'questions' as const, name: 'Questions' }] : []),
  { which: 'ways' as const, name: 'More' },
]);
</script>

<template>
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
    <label class="choice">
      <span class="visually-hidden">Speed</span>
      <select v-model="voice">
        <option v-for="one in VOICE_SPEEDS" :key="one" :value="one">{{ one }} ×</option>
      </select>
    </label>
    <button v-if="hasCaptions" class="plain" :aria-pressed="readsAlong" @click="readsAlong = !readsAlong">
      Captions
    </button>
    <button
      v-for="one in PANELS"
      :key="one.which"
      class="plain"
      :aria-expanded="beside === one.which"
      @click="beside = beside === one.which ? null : one.which"
    >
      {{ one.name }}
    </button>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.35rem;
  align-items: center;
  padding: 0.6rem 0 0.8rem;
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
  padding: 0 0.3rem;
  font-variant-numeric: tabular-nums;
}

.grow {
  flex: 1;
}

.choice select {
  max-width: 12rem;
}

@media (max-width: 560px) {
  .choice select {
    max-width: 8rem;
  }
}
</style>
