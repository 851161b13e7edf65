<script setup lang="ts">
import type { Watch } from '@kite-trail/core/contract/watch';
import { clockText } from '../../look/time';
import { CAPTION_PLACES, CAPTION_SIZES, FACES, SPACINGS, TINTS, type OwnWays } from './own-ways';
import { INK_SPEEDS, PAUSES, type Pace } from './pace';
import type { Step } from './steps';

/** Ways to watch that not all need: step by step, once more, slower, in other letters, on paper. */
const props = defineProps<{
  pace: Pace;
  ways: OwnWays;
  chapters: Watch['chapters'];
  hasCaptions: boolean;
  /** What may be saved, as files. */
  files: readonly { name: string; label: string; url: string }[];
  isCounted: boolean;
}>();
const emit = defineEmits<{ step: [by: Step, direction: 1 | -1]; print: []; fullScreen: []; close: [] }>();

const PAUSE_WORDS: Record<(typeof PAUSES)[number], string> = { 1: 'As they are', 2: 'Twice as long', 4: 'Four times' };
const { pace, ways } = props;
const { ink, pauses, repeated } = pace;
const { face, spacing, tint, captionSize, captionPlace, motion } = ways;
const canFill = document.fullscreenEnabled;

function repeatText(): string {
  const now = repeated.value;
  if (!now) return 'Repeat from here';
  return now.to === null ? 'Repeat up to here' : `Stop repeating ${clockText(now.from)} to ${clockText(now.to)}`;
}
</script>

<template>
  <section class="panel" aria-label="Ways to watch">
    <header>
      <h2>Ways to watch</h2>
      <button class="close" aria-label="Close the ways to watch" @click="emit('close')">×</button>
    </header>
    <div class="list">
      <div class="row">
        <span id="by-stroke">Stroke by stroke</span>
        <button class="plain" aria-label="One stroke back" @click="emit('step', 'stroke', -1)">‹</button>
        <button class="plain" aria-label="One stroke on" @click="emit('step', 'stroke', 1)">›</button>
      </div>
      <div v-if="chapters.length > 1" class="row">
        <span>Chapter by chapter</span>
        <button class="plain" aria-label="One chapter back" @click="emit('step', 'chapter', -1)">‹</button>
        <button class="plain" aria-label="One chapter on" @click="emit('step', 'chapter', 1)">›</button>
      </div>
      <button class="plain wide" :aria-pressed="repeated !== null" @click="pace.markRepeated()">
        {{ repeatText() }}
      </button>
      <label class="row">
        Silent writing
        <select v-model="ink">
          <option :value="null">As fast as speech</option>
          <option v-for="one in INK_SPEEDS" :key="one" :value="one">{{ one }} ×</option>
        </select>
      </label>
      <label class="row">
        Pauses to think
        <select v-model="pauses">
          <option v-for="one in PAUSES" :key="one" :value="one">{{ PAUSE_WORDS[one] }}</option>
        </select>
      </label>
      <h3>To read more easily</h3>
      <label class="row">
        Letters
        <select v-model="face">
          <option v-for="one in FACES" :key="one.value" :value="one.value">{{ one.label }}</option>
        </select>
      </label>
      <label class="row">
        Spacing
        <select v-model="spacing">
          <option v-for="one in SPACINGS" :key="one.value" :value="one.value">{{ one.label }}</option>
        </select>
      </label>
      <template v-if="hasCaptions">
        <label class="row">
          Captions
          <select v-model="captionSize">
            <option v-for="one in CAPTION_SIZES" :key="one.value" :value="one.value">{{ one.label }}</option>
          </select>
        </label>
        <label class="row">
          They stand
          <select v-model="captionPlace">
            <option v-for="one in CAPTION_PLACES" :key="one.value" :value="one.value">{{ one.label }}</option>
          </select>
        </label>
      </template>
      <label class="row">
        Tint over the page
        <select v-model="tint">
          <option v-for="one in TINTS" :key="one.value" :value="one.value">{{ one.label }}</option>
        </select>
      </label>
      <label class="row check">
        <input v-model="motion" type="checkbox" true-value="less" false-value="usual" />
        Less motion: strokes are there at once
      </label>
      <h3>To keep</h3>
      <button class="plain wide" @click="emit('print')">Print the pages</button>
      <a v-for="one in files" :key="one.url" class="plain wide" :href="one.url" :download="one.name">{{ one.label }}</a>
      <button v-if="canFill" class="plain wide" @click="emit('fullScreen')">Full screen</button>
      <p v-if="isCounted" class="note">
        Your teacher’s school counts how often each part of this lesson is watched. It keeps sums alone: no names, no
        addresses.
      </p>
    </div>
  </section>
</template>

<style scoped src="../beside-panel.css"></style>
<style scoped>
.row {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  justify-content: space-between;
}

h3 {
  margin-top: 0.8rem;
  font-size: 1rem;
}

.row > span {
  flex: 1;
}

.list {
  display: grid;
  gap: 0.4rem;
  align-content: start;
  overflow-y: auto;
}

select {
  width: 55%;
  min-height: 44px;
  padding: 0 0.6rem;
  font: inherit;
  color: inherit;
  background: var(--sail);
  border: 1px solid var(--field-line);
  border-radius: var(--radius);
}

.check {
  justify-content: start;
  min-height: 44px;
}

.check input {
  width: 22px;
  height: 22px;
  accent-color: var(--tail);
}

.wide {
  display: flex;
  align-items: center;
  justify-content: center;
  color: inherit;
  text-decoration: none;
}

.note {
  margin-top: 0.6rem;
}

[aria-pressed='true'] {
  background: var(--straw-pale);
}
</style>
