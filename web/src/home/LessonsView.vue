<script setup lang="ts">
import type { TeacherName } from '@kite-trail/core/contract/account';
import type { SchoolClass } from '@kite-trail/core/contract/class';
import type { LessonSummary } from '@kite-trail/core/contract/lesson';
import type { Together } from '@kite-trail/core/contract/together';
import type { ClassId, LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import { IconPlus } from '@tabler/icons-vue';
import { NButton, NSkeleton } from 'naive-ui';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { VueDraggable, type SortableEvent } from 'vue-draggable-plus';
import ChosenBar from './ChosenBar.vue';
import ClassHead from './classes/ClassHead.vue';
import DropDialog from './DropDialog.vue';
import EmptyHome from './EmptyHome.vue';
import LessonCard from './LessonCard.vue';
import LessonDialog from './LessonDialog.vue';
import HandOverDialog from './HandOverDialog.vue';
import MoveDialog from './MoveDialog.vue';
import TogetherDialog from './TogetherDialog.vue';
import type { Action } from './actions';
import { useChoice } from './choice';
import { DRAGGED_LESSONS, HELD_MS, TREMBLES_PX } from './dragging';
import { useLessons } from './lessons';
import SelectField from '../controls/SelectField.vue';
import { lessonsIn, SORTS, sortsOf, type Sort, type View } from './views';

/** The lessons of a view as cards: they are opened, sorted, chosen, moved, and put into the bin. */
const { view } = defineProps<{ view: View }>();
const emit = defineEmits<{ make: []; bring: [files: readonly File[]]; blank: [] }>();

const store = useLessons();
const router = useRouter();
const sort = ref<Sort>('used');
/** Whose details are open. */
const said = ref<LessonSummary | null>(null);
/** What is to go for good, once that is sure. */
const dropping = ref<LessonId[]>([]);
/** What is to be moved. */
const moving = ref<LessonId[]>([]);
/** On what somebody works with whom. */
const working = shallowRef<{ lesson: LessonSummary; now: Together; others: readonly TeacherName[] } | null>(null);
/** What is to become a colleague's, and who they are. */
const handing = shallowRef<{ ids: readonly LessonId[]; others: readonly TeacherName[] } | null>(null);

watch(
  () => (view.of === 'class' ? view.id : view.of),
  () => (sort.value = view.of === 'class' ? 'taught' : 'used'),
  { immediate: true },
);

const schoolClass = computed<SchoolClass | null>(() =>
  view.of === 'class' ? (store.classes.find(({ id }) => id === view.id) ?? null) : null,
);
const lessons = computed(() => lessonsIn(view, store.lessons ?? [], store.classes, sort.value));
const choice = useChoice(() => lessons.value.map(({ id }) => id));
const sorts = computed(() => sortsOf(view).map((value) => ({ value, label: SORTS[value] })));
const title = computed(() => {
  if (view.of === 'favourites') return 'Favourites';
  return view.of === 'bin' ? 'Bin' : 'Lessons';
});
/** A class alone has an order that can be changed by hand. */
const canOrder = computed(() => schoolClass.value !== null && sort.value === 'taught');

function actionsOf(lesson: LessonSummary): Action[] {
  const one = [lesson.id];
  const choose = { key: 'choose', label: 'Choose', run: () => choice.set(lesson.id, true, false) };
  if (lesson.binnedAt !== null) {
    return [
      { key: 'back', label: 'Put back', run: () => store.unbin(one) },
      { key: 'drop', label: 'Delete for good', run: () => (dropping.value = one) },
      choose,
    ];
  }
  const own = lesson.owner === null;
  const from = schoolClass.value;
  const place = lessons.value.findIndex(({ id }) => id === lesson.id);
  return [
    { key: 'about', label: 'Name and details', run: () => (said.value = lesson) },
    { key: 'move', label: from ? 'Move to a class' : 'Put into a class', run: () => (moving.value = one) },
    ...(from ? [{ key: 'out', label: `Take out of ${from.name}`, run: () => store.place(one, from.id, null) }] : []),
    ...(canOrder.value && place > 0 ? [{ key: 'up', label: 'Earlier', run: () => shift(lesson.id, place - 1) }] : []),
    ...(canOrder.value && place < lessons.value.length - 1
      ? [{ key: 'down', label: 'Later', run: () => shift(lesson.id, place + 2) }]
      : []),
    { key: 'duplicate', label: 'Duplicate', run: () => store.duplicate(lesson.id) },
    { key: 'copy', label: 'New lesson from its pages', run: () => startFrom(lesson.id) },
    { key: 'together', label: 'Work on it together', run: () => askWho(lesson) },
    // What becomes of a lesson is its owner's to say.
    ...(own ? [{ key: 'hand', label: 'Hand over to a colleague', run: () => askWhom(one) }] : []),
    choose,
    ...(own ? [{ key: 'bin', label: 'Put into the bin', run: () => store.bin(one) }] : []),
  ];
}

/** Puts a lesson before the one that stands at a place now. */
const shift = (id: LessonId, before: number) =>
  store.order(schoolClass.value!.id, id, lessons.value[before]?.id ?? null);

/** A card was dragged to another place. */
function dragged({ from, to, oldIndex, newIndex }: SortableEvent) {
  store.isDragging = false;
  // One that was dropped on another class is that class's.
  if (!canOrder.value || from !== to || oldIndex === undefined || newIndex === undefined || oldIndex === newIndex)
    return;
  void shift(lessons.value[oldIndex].id, newIndex > oldIndex ? newIndex + 1 : newIndex);
}

/** A new lesson from the pages of this one, without its recordings. */
async function startFrom(id: LessonId) {
  const made = await store.copyPages(id);
  if (made) await router.push({ name: 'lesson', params: { lessonId: made } });
}

async function drop() {
  const ids = dropping.value;
  dropping.value = [];
  await store.drop(ids);
  choice.none();
}

async function move(to: ClassId | null, stays: boolean) {
  const ids = moving.value;
  moving.value = [];
  await store.place(ids, stays ? null : (schoolClass.value?.id ?? null), to);
  choice.none();
}

onBeforeUnmount(() => (store.isDragging = false));

async function askWhom(ids: readonly LessonId[]) {
  const others = await store.others();
  if (others) handing.value = { ids, others };
}

async function askWho(lesson: LessonSummary) {
  const [others, now] = await Promise.all([store.others(), store.together(lesson.id)]);
  if (others && now) working.value = { lesson, now, others };
}

async function workWith(colleagues: TeacherId[]) {
  const { lesson } = working.value!;
  working.value = null;
  await store.workWith(lesson.id, colleagues);
}

async function leave() {
  const { lesson } = working.value!;
  working.value = null;
  await store.leave(lesson.id);
}

async function hand({ id }: TeacherName) {
  const { ids } = handing.value!;
  handing.value = null;
  await store.handOver(ids, id);
  choice.none();
}
</script>

<template>
  <component :is="schoolClass ? ClassHead : 'div'" class="head" :school-class="schoolClass">
    <h1 v-if="!schoolClass">{{ title }}</h1>
    <p v-if="view.of === 'bin'" class="hint">What lies here goes for good after 30 days.</p>
    <p v-else-if="view.of === 'all'" class="hint">Drop a PDF or a picture here to begin with it.</p>
    <span v-if="!schoolClass" class="room"></span>
    <select-field v-if="view.of !== 'bin'" v-model="sort" class="sort" label="Sorted" :options="sorts" />
    <n-button v-if="view.of !== 'bin'" type="primary" size="large" @click="emit('make')">
      <template #icon><icon-plus /></template>
      New lesson
    </n-button>
  </component>
  <chosen-bar
    v-if="choice.ids.value.length > 0"
    :ids="choice.ids.value"
    :is-bin="view.of === 'bin'"
    @all="choice.all()"
    @none="choice.none()"
    @move="moving = [...choice.ids.value]"
    @hand="askWhom([...choice.ids.value])"
    @drop="dropping = [...choice.ids.value]"
  />

  <div v-if="!store.lessons && !store.problem" class="grid" role="status" aria-label="Loading lessons">
    <n-skeleton v-for="n in 3" :key="n" class="waiting" />
  </div>
  <empty-home
    v-else-if="view.of === 'all' && store.lessons?.length === 0"
    @blank="emit('blank')"
    @bring="emit('bring', $event)"
  />
  <p v-else-if="lessons.length === 0 && store.lessons" class="none">
    {{ view.of === 'bin' ? 'The bin is empty.' : 'There are no lessons here yet.' }}
  </p>
  <vue-draggable
    :model-value="lessons"
    tag="ul"
    class="grid"
    :group="{ name: DRAGGED_LESSONS, pull: 'clone', put: false }"
    :sort="canOrder"
    :disabled="view.of === 'bin'"
    :delay="HELD_MS"
    :delay-on-touch-only="true"
    :force-fallback="true"
    :fallback-tolerance="TREMBLES_PX"
    :animation="120"
    filter="button"
    :prevent-on-filter="false"
    @start="store.isDragging = true"
    @end="dragged"
  >
    <li v-for="lesson in lessons" :key="lesson.id" class="place" :data-lesson="lesson.id">
      <lesson-card
        :lesson="lesson"
        :actions="actionsOf(lesson)"
        :chosen="choice.has(lesson.id)"
        :choosing="choice.ids.value.length > 0"
        @choose="(is, withShift) => choice.set(lesson.id, is, withShift)"
        @favour="store.favour([lesson.id], $event)"
      />
    </li>
  </vue-draggable>

  <drop-dialog
    v-if="dropping.length > 0"
    title="Delete for good?"
    action="Delete for good"
    @close="dropping = []"
    @drop="drop"
  >
    {{ dropping.length === 1 ? 'The lesson goes' : `${dropping.length} lessons go` }} with recordings and links. Nobody
    can bring them back.
  </drop-dialog>
  <lesson-dialog v-if="said" :lesson="said" @close="said = null" />
  <move-dialog v-if="moving.length > 0" :count="moving.length" :from="schoolClass" @close="moving = []" @move="move" />
  <together-dialog v-if="working" v-bind="working" @close="working = null" @keep="workWith" @leave="leave" />
  <hand-over-dialog
    v-if="handing"
    :count="handing.ids.length"
    :others="handing.others"
    @close="handing = null"
    @hand="hand"
  />
</template>

<style scoped src="./lesson-grid.css"></style>
<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 1.2rem;
  align-items: center;
  margin-bottom: 1rem;
}

h1 {
  margin: 0;
  font-size: 1.8rem;
}

.hint {
  margin: 0;
  color: var(--ink-soft);
}

.room {
  flex: 1;
}

.sort {
  width: 10rem;
}

/* Of hundreds of lessons those out of sight are neither laid out nor painted. */
.place {
  padding: 4px 4px 16px;
  margin: -4px -4px -16px;
  content-visibility: auto;
  contain-intrinsic-size: auto 16rem;
}

.waiting {
  height: 13rem;
  border-radius: var(--radius);
}

.none {
  padding: 3rem 0;
  text-align: center;
  color: var(--ink-soft);
}

@media (max-width: 640px) {
  .hint {
    display: none;
  }

  .sort {
    order: 1;
    width: 100%;
  }
}
</style>
