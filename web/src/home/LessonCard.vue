<script setup lang="ts">
import type { LessonSummary } from '@kite-trail/core/contract/lesson';
import { IconCopy, IconLink } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { clockText, spokenTime } from '../look/time';
import { pictureUrl } from '../server/api';

/** A lesson among others: what its page looks like, how long it is, whether it is shared. */
defineProps<{ lesson: LessonSummary }>();
const emit = defineEmits<{ copy: [] }>();
</script>

<template>
  <div class="card">
    <router-link :to="{ name: 'lesson', params: { lessonId: lesson.id } }" class="lesson">
      <img :src="pictureUrl(lesson)" alt="" class="picture" loading="lazy" />
      <span class="title">{{ lesson.title }}</span>
      <span class="facts">
        <span v-if="lesson.lengthSamples > 0" :aria-label="spokenTime(lesson.lengthSamples)" class="length">
          {{ clockText(lesson.lengthSamples) }}
        </span>
        <span v-else>not recorded yet</span>
        <span>{{ lesson.pageCount === 1 ? '1 page' : `${lesson.pageCount} pages` }}</span>
        <span v-if="lesson.shared" class="shared"><icon-link :size="17" /> shared</span>
      </span>
    </router-link>
    <n-button
      class="copy"
      quaternary
      circle
      :aria-label="`Start a new lesson from ${lesson.title}`"
      title="Start a new lesson from this one"
      @click="emit('copy')"
    >
      <template #icon><icon-copy :size="20" /></template>
    </n-button>
  </div>
</template>

<style scoped>
.card {
  position: relative;
}

.copy {
  position: absolute;
  right: 8px;
  bottom: 8px;
  color: var(--ink-soft);
}

.lesson {
  display: grid;
  gap: 0.25rem;
  padding-bottom: 0.75rem;
  overflow: hidden;
  color: inherit;
  text-decoration: none;
  background: var(--paper);
  border-radius: 14px;
  box-shadow: var(--shadow);
  transition: transform 120ms;
}

.lesson:hover {
  transform: translateY(-2px);
}

.picture {
  width: 100%;
  aspect-ratio: 16 / 9;
  object-fit: cover;
  object-position: top;
  background: var(--sail-deep);
  border-bottom: 1px solid var(--line);
}

.title {
  padding: 0.5rem 1rem 0;
  font-size: 1.1rem;
  font-weight: 650;
}

.facts {
  display: flex;
  gap: 0.9rem;
  padding: 0 3.5rem 0 1rem;
  color: var(--ink-soft);
}

.length {
  font-variant-numeric: tabular-nums;
  color: var(--ink);
}

.shared {
  display: inline-flex;
  gap: 0.25rem;
  align-items: center;
  color: var(--tail);
}
</style>
