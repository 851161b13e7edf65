<script setup lang="ts">
import { spacedCode } from '@kite-trail/core/contract/live';
import type { MarkingTable, TaskSummary } from '@kite-trail/core/contract/task';
import type { PageId, TaskId } from '@kite-trail/core/lesson/ids';
import { IconDownload, IconEye, IconEyeOff, IconPencil, IconRefresh } from '@tabler/icons-vue';
import { NButton, NSkeleton } from 'naive-ui';
import { useEventListener, useIntervalFn } from '@vueuse/core';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import ActionButton from '../controls/ActionButton.vue';
import { useAttempt } from '../controls/attempt';
import ProblemText from '../controls/ProblemText.vue';
import SelectField from '../controls/SelectField.vue';
import { fileNameOf } from '../device/file-name';
import { saveText } from '../device/save-file';
import { momentText } from '../look/time';
import { tasksApi } from '../server/tasks';
import AskedBar from './AskedBar.vue';
import BringButton from './BringButton.vue';
import ChoiceCounts from './ChoiceCounts.vue';
import { marksTable, stateOf, type ReplyState } from './marks';
import { useNames } from './names';
import ReplyTile from './ReplyTile.vue';
import SideBySide from './SideBySide.vue';
import TaskDialog from './TaskDialog.vue';

/** All that was handed in for a task, as small pictures: by student, or one page of all. */
const { taskId } = defineProps<{ taskId: TaskId }>();
const table = shallowRef<MarkingTable | null>(null);
const { problem, attempt } = useAttempt();
const router = useRouter();

const WHOLE = '';
const FILTERS = [
  { value: 'all', label: 'All' },
  { value: 'new', label: 'New' },
  { value: 'opened', label: 'Not given back yet' },
  { value: 'late', label: 'Late' },
  { value: 'missing', label: 'Missing' },
  { value: 'given', label: 'Given back' },
] as const;
type Filter = (typeof FILTERS)[number]['value'];
const filter = ref<Filter>('all');
const page = ref<PageId | typeof WHOLE>(WHOLE);
const { areHidden, called } = useNames();
const isEditing = ref(false);
/** Which replies are looked at side by side. */
const chosen = ref<readonly string[]>([]);
const isBeside = ref(false);

const LOOKED_FOR_EVERY_MS = 15_000;
/** Answers are seen as they are drawn. */
const LIVE_EVERY_MS = 1500;
const load = async () => (table.value = await tasksApi.table(taskId));
onMounted(() => attempt(load));
watch(
  () => taskId,
  () => attempt(load),
);
const isLive = computed(() => (table.value?.task.isLive ?? false) && !table.value!.task.isClosed);
const everyMs = computed(() => (isLive.value ? LIVE_EVERY_MS : LOOKED_FOR_EVERY_MS));
useIntervalFn(() => document.visibilityState === 'visible' && load().catch(() => {}), everyMs);

const MISSING: readonly ReplyState[] = ['missing', 'begun', 'taken-back'];
const rows = computed(() =>
  (table.value?.rows ?? []).map((row, n) => ({
    ...row,
    state: stateOf(row.reply),
    called: called(row.student.name, n),
  })),
);
const seen = computed(() =>
  rows.value.filter(({ state, reply }) => {
    if (filter.value === 'all') return true;
    if (filter.value === 'late') return reply?.handIn?.isLate ?? false;
    if (filter.value === 'missing') return MISSING.includes(state);
    if (filter.value === 'opened') return state === 'opened' || state === 'new';
    return state === filter.value;
  }),
);
const beside = computed(() => rows.value.filter(({ student }) => chosen.value.includes(student.id)));
const pages = computed(() => [
  { value: WHOLE as PageId | typeof WHOLE, label: 'Whole replies' },
  ...(table.value?.pages ?? []).map((id, n) => ({
    value: id as PageId | typeof WHOLE,
    label: `Page ${n + 1} of each`,
  })),
]);
const task = computed(() => table.value?.task ?? null);
const choicesMade = computed(() => (table.value?.rows ?? []).map(({ reply }) => reply?.choice ?? null));
const counted = computed(() => {
  const { handedIn = 0, students = 0, fresh = 0, givenBack = 0 } = task.value ?? {};
  return `${handedIn} of ${students} handed in, ${fresh} new, ${givenBack} given back`;
});

function mark({ reply }: (typeof rows.value)[number]) {
  if (!reply?.handIn) return;
  void router.push({
    name: 'marking',
    params: { taskId, lessonId: reply.handIn.lesson },
  });
}

/** Lays what is chosen on a page of its own: there it is written on, spoken over and shown. */
const lay = () =>
  attempt(async () => {
    const replies = beside.value.flatMap(({ reply }) => reply?.id ?? []);
    const lessonId = await tasksApi.layBeside(taskId, replies, page.value || null);
    await router.push({ name: 'lesson', params: { lessonId } });
  });

function choose(id: string) {
  chosen.value = chosen.value.includes(id) ? chosen.value.filter((one) => one !== id) : [...chosen.value, id];
}

async function saveCsv() {
  const { unparse } = await import('papaparse');
  // Spreadsheets take what begins like a formula for one.
  const text = unparse(marksTable(table.value!), { escapeFormulae: true });
  saveText(fileNameOf(task.value!.title, ', marks.csv'), 'text/csv', text);
}

function changed(to: TaskSummary | null) {
  isEditing.value = false;
  if (to === null) void router.replace({ name: 'tasks', params: { classId: table.value!.schoolClass.id } });
  else void attempt(load);
}

/** Arrows go from tile to tile, as through any grid. */
const grid = ref<HTMLElement>();
useEventListener(window, 'keydown', (event) => {
  const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
  if (step === undefined || isBeside.value || isEditing.value) return;
  const tiles = [...(grid.value?.querySelectorAll<HTMLElement>('.open') ?? [])];
  const at = tiles.indexOf(document.activeElement as HTMLElement);
  if (at < 0 && !(document.activeElement === document.body)) return;
  event.preventDefault();
  tiles[Math.min(tiles.length - 1, Math.max(0, at + step))]?.focus();
});
</script>

<template>
  <header v-if="task && table" class="head">
    <div class="told">
      <router-link :to="{ name: 'tasks', params: { classId: table.schoolClass.id } }" class="class" dir="auto">
        {{ table.schoolClass.name }}
      </router-link>
      <h1 dir="auto">{{ task.title }}</h1>
      <p class="facts">
        {{ counted }}<template v-if="task.dueAt">. Due {{ momentText(task.dueAt) }}</template
        ><template v-if="task.isClosed">. Closed</template
        ><template v-else-if="!isLive"
          >. Its code is <strong>{{ spacedCode(task.code) }}</strong></template
        >
      </p>
    </div>
    <action-button name="Look again" :icon="IconRefresh" @click="attempt(load)" />
    <action-button
      :name="areHidden ? 'Show names' : 'Hide names'"
      :icon="areHidden ? IconEyeOff : IconEye"
      :pressed="areHidden"
      @click="areHidden = !areHidden"
    />
    <bring-button :task="task" :students="table.rows.map(({ student }) => student)" @brought="attempt(load)" />
    <action-button name="Marks as CSV" :icon="IconDownload" @click="saveCsv" />
    <action-button name="Task details" :icon="IconPencil" @click="isEditing = true" />
  </header>
  <problem-text v-if="problem">{{ problem }}</problem-text>
  <n-skeleton v-if="!table && !problem" :height="240" />
  <template v-if="table">
    <asked-bar v-if="isLive" :task="task!" @stopped="attempt(load)" />
    <choice-counts v-if="task!.choices.length > 0" :choices="task!.choices" :chosen="choicesMade" />
    <p v-if="table.rows.length === 0 && !isLive" class="none">
      Nobody is in this class yet. Add names under “Students” of the class; each gets a link of their own.
    </p>
    <div v-else class="ways">
      <select-field v-model="filter" label="Which replies" :options="FILTERS" />
      <select-field v-model="page" label="What is seen of each" :options="pages" />
      <n-button v-if="chosen.length > 0" type="primary" @click="isBeside = true">
        {{ chosen.length === 1 ? 'Look at it' : `${chosen.length} side by side` }}
      </n-button>
      <n-button v-if="chosen.length > 0" @click="lay">Put {{ chosen.length === 1 ? 'it' : 'them' }} on a page</n-button>
      <n-button v-if="chosen.length > 0" quaternary @click="chosen = []">Choose none</n-button>
    </div>
    <ul ref="grid" class="tiles" :class="{ large: page !== WHOLE }">
      <li v-for="row in seen" :key="row.student.id">
        <reply-tile
          :called="row.called"
          :state="row.state"
          :reply="row.reply"
          :page="page === WHOLE ? null : page"
          :criteria="task!.criteria"
          :is-chosen="chosen.includes(row.student.id)"
          :is-live="isLive"
          :choices="task!.choices"
          @open="mark(row)"
          @choose="choose(row.student.id)"
        />
      </li>
    </ul>
    <p v-if="table.rows.length > 0 && seen.length === 0" class="none">There are none of these.</p>
  </template>
  <side-by-side
    v-if="isBeside"
    :replies="beside"
    :pages="table?.pages ?? []"
    :page="page || null"
    @close="isBeside = false"
  />
  <task-dialog v-if="isEditing && task" :task="task" @close="changed" @cancel="isEditing = false" />
</template>

<style scoped>
.head {
  display: flex;
  gap: 0.4rem;
  align-items: start;
  margin-bottom: 1rem;
}

.told {
  flex: 1;
  min-width: 0;
}

.class {
  color: var(--tail);
}

h1 {
  margin: 0.1rem 0 0.2rem;
  font-size: 1.8rem;
}

.facts,
.none {
  margin: 0;
  color: var(--ink-soft);
}

.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 0.7rem;
  margin-bottom: 1rem;
}

.tiles {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(13.5rem, 100%), 1fr));
  gap: 1rem;
  padding: 0;
  margin: 0;
  list-style: none;
}

.large {
  grid-template-columns: repeat(auto-fill, minmax(min(22rem, 100%), 1fr));
}
</style>
