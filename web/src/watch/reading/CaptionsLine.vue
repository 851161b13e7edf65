<script setup lang="ts">
import type { TimedText } from '@kite-trail/core/formats/timed-text';
import { litWords } from './lit-words';

/** What is said just now, over the page: its words are lit as they are spoken. */
defineProps<{ said: readonly TimedText[]; nowMs: number; place: 'foot' | 'head' }>();
const shareOf = ({ startMs, endMs }: TimedText, nowMs: number) => (nowMs - startMs) / Math.max(1, endMs - startMs);
</script>

<template>
  <p class="captions" :class="place" aria-live="off">
    <span v-for="one in said" :key="one.startMs" dir="auto">
      <span v-for="(part, n) in litWords(one.text, shareOf(one, nowMs))" :key="n" :class="{ lit: part.isLit }">{{
        part.word
      }}</span>
    </span>
  </p>
</template>

<style scoped>
.captions {
  position: absolute;
  left: 50%;
  display: grid;
  gap: 2px;
  width: max-content;
  max-width: 94%;
  padding: 0.35rem 0.8rem;
  margin: 0;
  font-size: calc(clamp(1.05rem, 2.2vw, 1.5rem) * var(--caption-size, 1));
  line-height: 1.35;
  color: #fff;
  text-align: center;
  white-space: pre-line;
  pointer-events: none;
  background: rgb(31 42 68 / 88%);
  border-radius: 8px;
  transform: translateX(-50%);
}

.foot {
  bottom: 10px;
}

.head {
  top: 10px;
}

.lit {
  color: #f6d98a;
}
</style>
