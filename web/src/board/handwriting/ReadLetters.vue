<script setup lang="ts">
import { heightOf } from '@kite-trail/core/reading/point-cloud';
import { computed, ref } from 'vue';
import { useReading } from './handwriting';
import InkSign from './InkSign.vue';

/** The letters that were read, each beneath its ink. One that is touched can be put right. */
const MOST_CHOICES = 8;
const reading = useReading();
const chosen = ref<{ line: number; at: number } | null>(null);

const choices = computed(() => {
  if (!chosen.value) return [];
  return reading.lettersRead?.[chosen.value.line]?.[chosen.value.at]?.choices.slice(0, MOST_CHOICES) ?? [];
});
/** Letters are seen as large as they are to one another, more or less. */
const SMALL_SHARE = 0.6;
const leastSize = computed(() => SMALL_SHARE * Math.max(...reading.lines.map(heightOf)));
const isChosen = (line: number, at: number) => chosen.value?.line === line && chosen.value.at === at;

function correct(letter: string) {
  if (chosen.value && letter.trim() !== '') reading.correct(chosen.value.line, chosen.value.at, letter);
}

function typed(event: Event) {
  const field = event.target as HTMLInputElement;
  correct(field.value.slice(-1));
  field.value = '';
}
</script>

<template>
  <div class="lines" role="group" aria-label="Letters read">
    <div v-for="(line, n) in reading.lettersRead" :key="n" class="line">
      <button
        v-for="(letter, i) in line"
        :key="i"
        type="button"
        class="letter"
        :class="{ gap: letter.beginsWord && i > 0, mended: reading.corrected.has(`${n} ${i}`) }"
        :aria-label="`Read as ${letter.choices[0]}`"
        :aria-pressed="isChosen(n, i)"
        @click="chosen = isChosen(n, i) ? null : { line: n, at: i }"
      >
        <ink-sign :strokes="letter.strokes.map((stroke) => reading.lines[stroke])" :least-size="leastSize" />
        <span class="read">{{ letter.choices[0] }}</span>
      </button>
    </div>
  </div>
  <div v-if="chosen" class="choices" role="group" aria-label="What it is">
    <button
      v-for="letter in choices"
      :key="letter"
      type="button"
      class="choice"
      :aria-pressed="letter === choices[0]"
      @click="correct(letter)"
    >
      {{ letter }}
    </button>
    <input class="other" maxlength="2" placeholder="…" aria-label="Another letter" @input="typed" />
  </div>
</template>

<style scoped>
.lines {
  display: grid;
  gap: 8px;
  max-height: 40vh;
  overflow-y: auto;
}

.line {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}

.letter {
  display: grid;
  justify-items: center;
  min-width: 46px;
  padding: 4px;
  cursor: pointer;
  background: var(--sail);
  border: 2px solid transparent;
  border-radius: 10px;
}

.gap {
  margin-left: 14px;
}

.letter[aria-pressed='true'] {
  background: var(--straw-pale);
  border-color: var(--straw);
}

.read {
  font-size: 1.25rem;
  font-weight: 650;
  line-height: 1.3;
}

.mended .read {
  color: var(--tail);
}

.choices {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}

.choice,
.other {
  width: 46px;
  min-height: 46px;
  font: inherit;
  font-size: 1.15rem;
  text-align: center;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 10px;
}

.choice {
  cursor: pointer;
}

.choice[aria-pressed='true'] {
  background: var(--straw-pale);
  border-color: var(--straw);
}
</style>
