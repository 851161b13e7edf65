<script setup lang="ts">
import { containerOf, pictureSize } from '@kite-trail/core/film/settings';
import { IconAdjustments, IconMovie } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed, ref } from 'vue';
import ProblemText from '../../controls/ProblemText.vue';
import { useFilms } from '../../lesson/films';
import { useLesson } from '../../lesson/lesson';
import { sizeText } from '../../look/size';
import MakingList from '../../making/MakingList.vue';
import { useMakings } from '../../making/makings';
import FilmDialog from './FilmDialog.vue';
import { FILM, useFilmParts } from './film-parts';

/** A video of the lesson: as the last one was, with one touch, or as it is wanted now. */
const lesson = useLesson();
const films = useFilms();
const makings = useMakings();
const parts = useFilmParts();
const isOpen = ref(false);

const told = computed(() => {
  const { settings } = films;
  const { widthPx, heightPx } = pictureSize(settings);
  const kind = containerOf(settings.codec) === 'mp4' ? 'MP4' : 'WebM';
  const where = kind === 'MP4' ? ', plays everywhere' : '';
  return `${kind}, ${widthPx} × ${heightPx}, about ${sizeText(parts.bytesOf(settings, { kind: 'whole' }))}${where}.`;
});
</script>

<template>
  <div class="way">
    <h2><icon-movie :size="22" /> Video</h2>
    <making-list :list="makings.of(lesson.document!.id, FILM)" />
    <p class="note">{{ told }} Only the page is in the picture.</p>
    <div class="two">
      <n-button size="large" :loading="films.isOrdering" @click="parts.order({ kind: 'whole' }, films.settings)"
        >Make a video</n-button
      >
      <n-button size="large" quaternary aria-label="More choices for the video" @click="isOpen = true">
        <template #icon><icon-adjustments /></template>More
      </n-button>
    </div>
    <problem-text v-if="films.problem">{{ films.problem }}</problem-text>
    <film-dialog v-if="isOpen" @close="isOpen = false" />
  </div>
</template>

<style scoped src="../way.css"></style>
