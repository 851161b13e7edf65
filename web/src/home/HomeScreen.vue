<script setup lang="ts">
import type { ClassId, LessonId } from '@kite-trail/core/lesson/ids';
import { IconSearch } from '@tabler/icons-vue';
import { NButton, NInput } from 'naive-ui';
import { watchDebounced } from '@vueuse/core';
import { computed, defineAsyncComponent, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useOutbox } from '../app/outbox';
import { useSession } from '../app/session';
import { useDroppedFiles } from '../bring-in/dropped-files';
import { leaveFiles } from '../bring-in/waiting-files';
import ProblemText from '../controls/ProblemText.vue';
import { api } from '../server/api';
import { persistently } from '../server/persistently';
import { useArrivals } from './arriving/arrivals';
import ClassDialog from './classes/ClassDialog.vue';
import { TYPED_MS } from './finding/finding';
import FoundList from './finding/FoundList.vue';
import HomeHead from './HomeHead.vue';
import HomeRail from './HomeRail.vue';
import { useLessons } from './lessons';
import LessonsView from './LessonsView.vue';
import NewLesson from './NewLesson.vue';
import type { View } from './views';

const ArrivalsDialog = defineAsyncComponent(() => import('./arriving/ArrivalsDialog.vue'));

/** Home: the ways through the lessons, and the lessons; or another place that is in the address. */
const store = useLessons();
const outbox = useOutbox();
const arrivals = useArrivals();
const session = useSession();
const route = useRoute();
const router = useRouter();
const isMaking = ref(false);
const isClassOpen = ref(false);
const title = ref('');
const problem = ref('');

const view = computed<View | null>(() => {
  if (route.name === 'class') return { of: 'class', id: route.params.classId as ClassId };
  if (route.name === 'favourites' || route.name === 'bin') return { of: route.name };
  return route.name === 'home' ? { of: 'all' } : null;
});
const within = computed(() => (view.value?.of === 'class' ? view.value.id : null));
const asked = ref(String(route.query.find ?? ''));
// Whoever comes back finds what they looked for: the address follows what is typed, and never writes over it.
function keepInAddress(find: string) {
  if (find !== (route.query.find ?? '')) void router.replace({ query: { ...route.query, find: find || undefined } });
}
watchDebounced(asked, keepInAddress, { debounce: TYPED_MS });
watch(
  () => route.path,
  () => (asked.value = ''),
);

/** Why the lessons are not there yet. */
const loadWaitsFor = ref<string | null>(null);
const waitsFor = computed(() => session.waitsFor ?? loadWaitsFor.value);
let isLeft = false;
onBeforeUnmount(() => (isLeft = true));
onMounted(async () => {
  try {
    await session.arrives();
    await persistently(
      store.load,
      (why) => (loadWaitsFor.value = why),
      () => !isLeft,
    );
  } catch (error) {
    problem.value = (error as Error).message;
  }
  // What this device still owes is sent from here, too.
  await outbox.openIfUsed();
});

async function make(classes: readonly ClassId[]) {
  problem.value = '';
  try {
    const lesson = await api.makeLesson(title.value.trim() || 'New lesson', classes);
    await router.push({ name: 'lesson', params: { lessonId: lesson.id } });
  } catch (error) {
    problem.value = (error as Error).message;
  }
}

/** Files that come onto Home make a lesson of their own, named after the first of them. */
async function makeFrom(files: readonly File[]) {
  if (files.length === 0) return;
  const archive = files.find(isZip);
  if (archive) return arrivals.open(archive, files.length > 1);
  // Whoever is just giving it a name keeps that name.
  if (!isMaking.value || title.value.trim() === '') title.value = files[0].name.replace(/\.[^.]+$/, '').slice(0, 120);
  leaveFiles(files);
  await make(within.value ? [within.value] : []);
}

/** Archives of lessons are the only ZIPs that Home takes. */
const isZip = ({ name, type }: File) => /\.zip$/i.test(name) || /zip/.test(type);

function pasted(event: ClipboardEvent) {
  if (!isMaking.value) void makeFrom([...(event.clipboardData?.files ?? [])]);
}
window.addEventListener('paste', pasted);
onBeforeUnmount(() => window.removeEventListener('paste', pasted));

useDroppedFiles((files) => void makeFrom(files));

/** From another class a lesson moves; from elsewhere it is in one more. */
const drop = (to: ClassId, lesson: LessonId) =>
  to === within.value ? undefined : store.place([lesson], within.value, to);
</script>

<template>
  <home-head>
    <n-input
      v-model:value="asked"
      class="search"
      size="large"
      round
      clearable
      placeholder="Find in all lessons"
      :maxlength="200"
      :input-props="{ type: 'search', 'aria-label': 'Find in all lessons', dir: 'auto' }"
    >
      <template #prefix><icon-search :size="20" /></template>
    </n-input>
  </home-head>
  <div class="home">
    <home-rail class="rail" @new-class="isClassOpen = true" @bring="makeFrom" @dropped="drop" />
    <main class="main">
      <p v-if="waitsFor" role="status">{{ waitsFor }}</p>
      <problem-text v-if="(problem && !isMaking) || store.problem">
        {{ problem || store.problem }} <n-button text type="primary" @click="store.load()">Try again</n-button>
      </problem-text>
      <p v-if="store.done" class="done" role="status">
        {{ store.done.text }} <n-button text type="primary" @click="store.undo()">Undo</n-button>
      </p>
      <found-list v-if="asked.trim() !== ''" :asked="asked" />
      <lessons-view v-else-if="view" :view="view" @make="isMaking = true" @blank="make([])" @bring="makeFrom" />
      <router-view v-else />
    </main>
  </div>
  <new-lesson
    v-if="isMaking"
    v-model:title="title"
    :within="within"
    :problem="problem"
    @close="isMaking = false"
    @make="make"
  />
  <arrivals-dialog v-if="arrivals.stage" />
  <class-dialog v-if="isClassOpen" @close="isClassOpen = false" />
</template>

<style scoped>
.search {
  max-width: 34rem;
  margin-right: auto;
}

.home {
  display: grid;
  grid-template-columns: 14rem minmax(0, 1fr);
  gap: 2rem;
  max-width: 96rem;
  padding: 0.5rem 1.5rem 4rem 1rem;
  margin: 0 auto;
}

.rail {
  position: sticky;
  top: 1rem;
  align-self: start;
}

.done {
  padding: 0.6rem 1rem;
  margin: 0 0 1rem;
  background: var(--straw-pale);
  border-radius: var(--radius);
}

@media (max-width: 900px) {
  .search {
    order: 1;
    max-width: none;
    margin: 0.25rem 0.5rem 0.5rem 0;
  }

  .home {
    display: block;
    padding-inline: 0;
  }

  .rail {
    position: static;
  }

  .main {
    padding: 0.75rem 1rem 0;
  }
}
</style>
