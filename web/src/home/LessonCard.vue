<script setup lang="ts">
import type { LessonSummary } from '@kite-trail/core/contract/lesson';
import { IconDots, IconLink, IconStar, IconStarFilled, IconUsers } from '@tabler/icons-vue';
import { useMediaQuery } from '@vueuse/core';
import { NButton, NCheckbox, NDropdown } from 'naive-ui';
import { computed } from 'vue';
import { clockText, spokenTime } from '../look/time';
import { pictureUrl } from '../server/api';
import type { Action } from './actions';

/** A lesson among others: what its page looks like, how long it is, whether it is shared; and what can be done with it. */
const { lesson, actions } = defineProps<{
  lesson: LessonSummary;
  actions: readonly Action[];
  chosen: boolean;
  /** Some are chosen: a touch chooses more. */
  choosing: boolean;
}>();
const emit = defineEmits<{ choose: [is: boolean, withShift: boolean]; favour: [is: boolean] }>();

/** Whether Shift was held when it was chosen by hand; keys choose one by one. */
let withShift = false;
function choose(is: boolean) {
  emit('choose', is, withShift);
  withShift = false;
}

/** Whose it is where it is a colleague's, else who works on it too. */
const withWhom = computed(() => {
  const { owner, colleagues } = lesson;
  if (owner !== null) return `${owner}’s`;
  if (colleagues.length === 0) return '';
  return colleagues.length === 1 ? `with ${colleagues[0]}` : `with ${colleagues.length} colleagues`;
});
const canHover = useMediaQuery('(hover: hover)');
const run = (key: string) => actions.find((one) => one.key === key)!.run();
</script>

<template>
  <article class="card" :class="{ chosen, choosing }">
    <router-link :to="{ name: 'lesson', params: { lessonId: lesson.id } }" class="lesson" draggable="false">
      <img :src="pictureUrl(lesson)" alt="" class="picture" loading="lazy" draggable="false" />
      <span class="title" dir="auto">{{ lesson.title }}</span>
      <span class="facts">
        <span v-if="lesson.lengthSamples > 0" :aria-label="spokenTime(lesson.lengthSamples)" class="length">
          {{ clockText(lesson.lengthSamples) }}
        </span>
        <span v-else>not recorded yet</span>
        <span>{{ lesson.pageCount === 1 ? '1 page' : `${lesson.pageCount} pages` }}</span>
        <span v-if="lesson.shared" class="shared"><icon-link :size="17" /> shared</span>
        <span v-if="withWhom" class="together"><icon-users :size="17" /> {{ withWhom }}</span>
        <b v-if="lesson.openQuestions > 0" class="asked">
          {{ lesson.openQuestions === 1 ? '1 question' : `${lesson.openQuestions} questions` }}
        </b>
      </span>
    </router-link>
    <n-checkbox
      v-if="choosing || canHover"
      class="choice"
      :checked="chosen"
      :aria-label="`Choose ${lesson.title}`"
      @click.capture="withShift = ($event as MouseEvent).shiftKey"
      @update:checked="choose"
    />
    <n-button
      v-if="lesson.binnedAt === null"
      class="star"
      :class="{ is: lesson.isFavourite }"
      quaternary
      circle
      :aria-label="`${lesson.title}: a favourite`"
      :aria-pressed="lesson.isFavourite"
      title="Favourite"
      @click="emit('favour', !lesson.isFavourite)"
    >
      <template #icon>
        <icon-star-filled v-if="lesson.isFavourite" :size="20" /><icon-star v-else :size="20" />
      </template>
    </n-button>
    <n-dropdown trigger="click" :options="actions.map(({ key, label }) => ({ key, label }))" @select="run">
      <n-button class="menu" quaternary circle :aria-label="`What to do with ${lesson.title}`" title="More">
        <template #icon><icon-dots :size="20" /></template>
      </n-button>
    </n-dropdown>
  </article>
</template>

<style scoped src="./lesson-tile.css"></style>
<style scoped>
.card {
  position: relative;
  height: 100%;
}

.lesson {
  height: 100%;
  padding-bottom: 0.75rem;
  overflow: hidden;
  background: var(--paper);
  border-radius: 14px;
  box-shadow: var(--shadow);
}

/* The star and the menu lie beside them. */
.facts {
  padding-right: 6rem;
}

.length {
  font-variant-numeric: tabular-nums;
  color: var(--ink);
}

.shared,
.together {
  display: inline-flex;
  gap: 0.25rem;
  align-items: center;
  color: var(--tail);
}

.asked {
  color: var(--kite-deep);
}

.choice,
.star,
.menu {
  position: absolute;
}

.choice {
  top: 10px;
  left: 10px;
  padding: 4px 6px;
  background: var(--veil);
  border-radius: 8px;
}

.star,
.menu {
  right: 6px;
  bottom: 6px;
  color: var(--ink-soft);
}

.star {
  right: 44px;
}

.star.is {
  color: var(--straw-deep);
}

/* With a pointer, lessons are chosen by what comes up under it; with a finger, choosing begins in the menu. */
.card:not(:hover, :focus-within, .choosing) .choice {
  opacity: 0;
}

.chosen .lesson {
  outline: 3px solid var(--tail);
  outline-offset: -3px;
}
</style>
