<script setup lang="ts">
import type { SchoolClass } from '@kite-trail/core/contract/class';
import type { ClassId, LessonId } from '@kite-trail/core/lesson/ids';
import {
  IconArchive,
  IconBooks,
  IconDatabase,
  IconLayoutGrid,
  IconMicrophone,
  IconPackageImport,
  IconPlus,
  IconStar,
  IconTrash,
} from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed, ref } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';
import ClassPennant from './classes/ClassPennant.vue';
import { DRAGGED_LESSONS, HELD_MS, TREMBLES_PX } from './dragging';
import { useLessons } from './lessons';

/** The ways through the lessons: all, favourites, class by class; lessons are dropped on a class to be in it. */
const emit = defineEmits<{
  newClass: [];
  dropped: [to: ClassId, lesson: LessonId];
  bring: [files: readonly File[]];
}>();

const store = useLessons();
const isPastOpen = ref(false);
const picker = ref<HTMLInputElement>();

const VIEWS = [
  { to: '/', name: 'All lessons', icon: IconLayoutGrid },
  { to: '/favourites', name: 'Favourites', icon: IconStar },
  { to: '/catalogue', name: 'Catalogue', icon: IconBooks },
] as const;
const PLACES = [
  { to: '/recordings', name: 'Recordings', icon: IconMicrophone },
  { to: '/space', name: 'Space', icon: IconDatabase },
  { to: '/bin', name: 'Bin', icon: IconTrash },
] as const;

const taught = computed({
  get: () => store.taught,
  set: (to: readonly SchoolClass[]) => void store.orderClasses([...to, ...store.past].map(({ id }) => id)),
});

/** The same archive can be chosen again. */
function bring() {
  emit('bring', [...(picker.value?.files ?? [])]);
  picker.value!.value = '';
}

/** A card that was dropped is not kept among the pennants: the lesson is in the class then. */
function drop(event: { item: HTMLElement }, to: ClassId) {
  const lesson = event.item.dataset.lesson as LessonId | undefined;
  event.item.remove();
  if (lesson) emit('dropped', to, lesson);
}
</script>

<template>
  <nav class="rail" aria-label="Lessons by">
    <router-link v-for="one in VIEWS" :key="one.to" :to="one.to" class="way">
      <component :is="one.icon" :size="20" stroke="1.75" /> {{ one.name }}
    </router-link>
    <h2 class="heading">Classes</h2>
    <vue-draggable
      v-model="taught"
      tag="div"
      class="classes"
      :delay="HELD_MS"
      :delay-on-touch-only="true"
      :force-fallback="true"
      :fallback-tolerance="TREMBLES_PX"
      :animation="120"
      @start="store.isDragging = true"
      @end="store.isDragging = false"
    >
      <vue-draggable
        v-for="one in taught"
        :key="one.id"
        tag="div"
        class="drop"
        :model-value="[]"
        :group="{ name: DRAGGED_LESSONS, pull: false, put: true }"
        :sort="false"
        @add="drop($event, one.id)"
      >
        <router-link :to="`/class/${one.id}`" class="way" draggable="false">
          <class-pennant :color="one.color" /> <span class="title">{{ one.name }}</span>
          <span class="count" :aria-label="`${one.lessons.length} lessons`">{{ one.lessons.length }}</span>
        </router-link>
      </vue-draggable>
    </vue-draggable>
    <n-button quaternary class="new" @click="emit('newClass')">
      <template #icon><icon-plus /></template>New class
    </n-button>
    <template v-if="store.past.length > 0">
      <n-button quaternary class="new" :aria-expanded="isPastOpen" @click="isPastOpen = !isPastOpen">
        <template #icon><icon-archive /></template>Past classes
      </n-button>
      <template v-if="isPastOpen">
        <router-link v-for="one in store.past" :key="one.id" :to="`/class/${one.id}`" class="way past">
          <class-pennant :color="one.color" /> <span class="title">{{ one.name }}</span>
        </router-link>
      </template>
    </template>
    <hr class="line" />
    <router-link v-for="one in PLACES" :key="one.to" :to="one.to" class="way">
      <component :is="one.icon" :size="20" stroke="1.75" /> {{ one.name }}
    </router-link>
    <button type="button" class="way" @click="picker?.click()">
      <icon-package-import :size="20" stroke="1.75" /> Bring lessons in
    </button>
    <input
      ref="picker"
      class="visually-hidden"
      type="file"
      accept=".zip,application/zip"
      tabindex="-1"
      aria-label="An archive of lessons"
      @change="bring"
    />
  </nav>
</template>

<style scoped>
.rail {
  display: flex;
  flex-direction: column;
  gap: 2px;
}

.classes {
  display: grid;
  gap: 2px;
}

.heading {
  margin: 1.1rem 0 0.3rem 0.75rem;
  font-size: 0.95rem;
  font-weight: 600;
  color: var(--ink-soft);
}

.way {
  display: flex;
  gap: 0.7rem;
  align-items: center;
  min-height: 44px;
  padding: 0 0.75rem;
  font: inherit;
  color: inherit;
  text-align: start;
  text-decoration: none;
  cursor: pointer;
  background: transparent;
  border: 0;
  border-radius: var(--radius);
}

.way:hover {
  background: var(--sail-deep);
}

.way.router-link-exact-active {
  font-weight: 650;
  background: var(--straw-pale);
}

.title {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.count {
  font-variant-numeric: tabular-nums;
  color: var(--ink-soft);
}

.past {
  opacity: 0.75;
}

/* While a card is over a class, the class says so; the card itself is not seen there. */
.drop :deep([data-lesson]) {
  display: none;
}

.drop:has([data-lesson]) .way {
  outline: 2px solid var(--tail);
}

.new {
  justify-content: flex-start;
  padding: 0 0.75rem;
  color: var(--ink-soft);
}

.line {
  width: 100%;
  margin: 0.8rem 0;
  border: 0;
  border-top: 1px solid var(--line);
}

/* On a narrow screen the ways lie in a row above the lessons. */
@media (max-width: 900px) {
  .rail,
  .classes {
    flex-flow: row nowrap;
    display: flex;
    align-items: center;
  }

  .rail {
    padding: 0 1rem 0.25rem;
    overflow-x: auto;
  }

  .way,
  .new {
    flex: none;
    white-space: nowrap;
  }

  .heading,
  .line {
    display: none;
  }
}
</style>
