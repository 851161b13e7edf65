<script setup lang="ts">
import type { SchoolClass } from '@kite-trail/core/contract/class';
import { USUAL_LINK } from '@kite-trail/core/contract/link';
import { NButton } from 'naive-ui';
import { computed } from 'vue';
import { useLesson } from '../lesson/lesson';
import { classPageUrl } from '../server/api';
import { useSharing } from './sharing';

/** The classes this lesson is in: with one touch it stands on a class's page. */
const { classes } = defineProps<{ classes: readonly SchoolClass[] }>();
const lesson = useLesson();
const sharing = useSharing();

const own = computed(() => classes.filter(({ lessons }) => lessons.includes(lesson.document!.id)));
const isOn = ({ id }: SchoolClass) =>
  (sharing.links ?? []).some(({ state, settings }) => state === 'live' && settings.schoolClass === id);
const give = ({ id }: SchoolClass) => sharing.make({ settings: { ...USUAL_LINK, schoolClass: id }, part: null }, '');
</script>

<template>
  <ul v-if="own.length > 0" class="pages">
    <li v-for="one in own" :key="one.id">
      <template v-if="isOn(one)">
        <span dir="auto">{{ one.name }} has it.</span>
        <a v-if="one.pageToken" :href="classPageUrl(one.pageToken)" target="_blank">The class’s page</a>
      </template>
      <n-button v-else :disabled="sharing.progress !== null || !lesson.isWithServer" @click="give(one)">
        Put it on the page of {{ one.name }}
      </n-button>
    </li>
  </ul>
</template>

<style scoped>
.pages {
  display: grid;
  gap: 0.4rem;
  padding: 0;
  margin: 0;
  list-style: none;
}

li {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
}

a {
  color: var(--tail);
}
</style>
