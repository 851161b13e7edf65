<script setup lang="ts">
import type { StudentId, TaskId } from '@kite-trail/core/lesson/ids';
import { NButton } from 'naive-ui';
import { computed, ref } from 'vue';
import { useAttempt } from '../controls/attempt';
import DialogCard from '../controls/DialogCard.vue';
import ProblemText from '../controls/ProblemText.vue';
import SelectField from '../controls/SelectField.vue';
import WorkProgress from '../controls/WorkProgress.vue';
import { bringWork, studentOf } from './brought';

/** Files that came by mail or drive, each with whose it is: by its name, where that tells. */
const { task, files, students } = defineProps<{
  task: TaskId;
  files: readonly File[];
  students: readonly { id: StudentId; name: string }[];
}>();
const emit = defineEmits<{ close: [] }>();

const NOBODY = '';
const whose = ref(files.map((file) => studentOf(file.name, students)?.id ?? NOBODY));
const options = [
  { value: NOBODY, label: 'Leave it out' },
  ...students.map(({ id, name }) => ({ value: id as string, label: name })),
];
const count = computed(() => whose.value.filter((one) => one !== NOBODY).length);
const done = ref<number | null>(null);
const { problem, attempt } = useAttempt();

async function bring() {
  done.value = 0;
  // What is wrong with one keeps none of the others back.
  const failed: string[] = [];
  for (const [n, file] of files.entries()) {
    const student = whose.value[n];
    if (student === NOBODY) continue;
    if (await attempt(() => bringWork(task, student as StudentId, file))) whose.value[n] = NOBODY;
    else failed.push(`${file.name}: ${problem.value}`);
    done.value = (n + 1) / files.length;
  }
  done.value = null;
  if (failed.length === 0) emit('close');
  else problem.value = failed.join(' ');
}
</script>

<template>
  <dialog-card :show="true" title="Work that came otherwise" style="max-width: 36rem" @update:show="emit('close')">
    <ul class="files">
      <li v-for="(file, n) in files" :key="n">
        <span class="name" dir="auto">{{ file.name }}</span>
        <select-field v-model="whose[n]" :label="`Whose is ${file.name}?`" :options="options" />
      </li>
    </ul>
    <problem-text v-if="problem">{{ problem }}</problem-text>
    <work-progress v-if="done !== null" label="Bringing in" :done="done" />
    <template #footer>
      <n-button type="primary" size="large" :disabled="count === 0 || done !== null" @click="bring">
        {{ count === 1 ? 'Bring it in' : `Bring in ${count}` }}
      </n-button>
    </template>
  </dialog-card>
</template>

<style scoped>
.files {
  display: grid;
  gap: 0.6rem;
  padding: 0;
  margin: 0;
  list-style: none;
}

li {
  display: grid;
  grid-template-columns: 1fr minmax(10rem, 14rem);
  gap: 0.8rem;
  align-items: center;
}

.name {
  overflow-wrap: anywhere;
}
</style>
