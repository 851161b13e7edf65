<script setup lang="ts">
import type { FoundKind, FoundPlace } from '@kite-trail/core/contract/search';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { findWords, wordsOf } from '@kite-trail/core/search/fold';
import { computed, toRef } from 'vue';
import type { RouteLocationRaw } from 'vue-router';
import ProblemText from '../../controls/ProblemText.vue';
import { clockText } from '../../look/time';
import { pictureUrl } from '../../server/api';
import { useFinding } from './finding';
import { useLessons } from '../lessons';

/** The lessons in which words were found, with the moment at which they are said or written. */
const { asked } = defineProps<{ asked: string }>();

const store = useLessons();
const { found, problem } = useFinding(toRef(() => asked));
const words = computed(() => wordsOf(asked));

const KINDS: Record<FoundKind, string> = {
  title: '',
  tag: 'Tag',
  description: 'About it',
  subject: 'Subject',
  caption: 'Said',
  text: 'Written',
};

const results = computed(() =>
  (found.value?.lessons ?? []).flatMap(({ id, places }) => {
    const lesson = store.lessons?.find((one) => one.id === id);
    return lesson ? [{ lesson, places: places.filter(({ kind }) => kind !== 'title') }] : [];
  }),
);

/** A text divided where words were found in it: every second part was. */
function parts(text: string): string[] {
  const all: string[] = [];
  let at = 0;
  for (const { from, to } of findWords(text, words.value)) {
    all.push(text.slice(at, from), text.slice(from, to));
    at = to;
  }
  return [...all, text.slice(at)];
}

function addressOf(lessonId: LessonId, { atSamples, page }: FoundPlace): RouteLocationRaw {
  if (atSamples !== null) return { path: `/lesson/${lessonId}/trim`, query: { at: String(atSamples) } };
  if (page !== null) return { path: `/lesson/${lessonId}/prepare`, query: { page: String(page) } };
  return { path: `/lesson/${lessonId}` };
}

const whereOf = ({ kind, atSamples, page }: FoundPlace) =>
  [KINDS[kind], atSamples === null ? '' : clockText(atSamples), page === null ? '' : `page ${page}`]
    .filter(Boolean)
    .join(' · ');
</script>

<template>
  <h1 class="title" aria-live="polite">
    {{ !found ? 'Looking…' : results.length === 1 ? 'Found in 1 lesson' : `Found in ${results.length} lessons` }}
  </h1>
  <problem-text v-if="problem">{{ problem }}</problem-text>
  <p v-if="found && found.unread > 0" class="hint">{{ found.unread }} more lessons are being read through.</p>
  <ul class="list">
    <li v-for="{ lesson, places } in results" :key="lesson.id" class="lesson">
      <img :src="pictureUrl(lesson)" alt="" class="picture" loading="lazy" />
      <div class="told">
        <router-link :to="`/lesson/${lesson.id}`" class="name" dir="auto">
          <template v-for="(part, i) in parts(lesson.title)" :key="i">
            <mark v-if="i % 2">{{ part }}</mark><template v-else>{{ part }}</template>
          </template>
        </router-link>
        <router-link v-for="(place, n) in places" :key="n" :to="addressOf(lesson.id, place)" class="place">
          <span class="where">{{ whereOf(place) }}</span>
          <span dir="auto">
            <template v-for="(part, i) in parts(place.text)" :key="i">
              <mark v-if="i % 2">{{ part }}</mark><template v-else>{{ part }}</template>
            </template>
          </span>
        </router-link>
      </div>
    </li>
  </ul>
</template>

<style scoped>
.title {
  margin: 0 0 1rem;
  font-size: 1.4rem;
}

.hint {
  color: var(--ink-soft);
}

.list {
  display: grid;
  gap: 1rem;
  padding: 0;
  margin: 0;
  list-style: none;
}

.lesson {
  display: flex;
  gap: 1.2rem;
  padding: 12px;
  background: var(--paper);
  border-radius: 14px;
  box-shadow: var(--shadow);
}

.picture {
  width: 144px;
  height: 81px;
  object-fit: cover;
  object-position: top;
  border: 1px solid var(--line);
  border-radius: 8px;
}

.told {
  display: grid;
  flex: 1;
  align-content: start;
  min-width: 0;
}

.name {
  font-size: 1.1rem;
  font-weight: 650;
  color: inherit;
  text-decoration: none;
}

.place {
  display: flex;
  gap: 0.8rem;
  padding: 0.4rem 0;
  color: inherit;
  text-decoration: none;
}

.name:hover,
.place:hover {
  text-decoration: underline;
}

.where {
  flex: 0 0 10rem;
  font-variant-numeric: tabular-nums;
  color: var(--ink-soft);
}

mark {
  color: inherit;
  background: var(--straw-pale);
  border-bottom: 2px solid var(--straw);
}

@media (max-width: 640px) {
  .picture {
    width: 80px;
    height: 45px;
  }

  .place {
    display: grid;
    gap: 0;
  }
}
</style>
