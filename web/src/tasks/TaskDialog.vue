<script setup lang="ts">
import type { TaskSummary } from '@kite-trail/core/contract/task';
import { NButton, NCheckbox } from 'naive-ui';
import { ref } from 'vue';
import { useAttempt } from '../controls/attempt';
import DialogCard from '../controls/DialogCard.vue';
import ProblemText from '../controls/ProblemText.vue';
import { tasksApi } from '../server/tasks';
import { aboutOf, draftOf } from './task-draft';
import TaskForm from './TaskForm.vue';

/** What is said of a task that was given out; it is closed, opened again, or deleted. */
const { task } = defineProps<{ task: TaskSummary }>();
const emit = defineEmits<{ close: [changed: TaskSummary | null]; cancel: [] }>();
const draft = ref(draftOf(task));
const isClosed = ref(task.isClosed);
const isDropping = ref(false);
const { problem, attempt } = useAttempt();

const keep = () =>
  attempt(async () => {
    const about = aboutOf(draft.value);
    emit('close', await tasksApi.changeTask(task.id, { ...about, isClosed: isClosed.value }));
  });
const drop = () =>
  attempt(async () => {
    await tasksApi.dropTask(task.id);
    emit('close', null);
  });
</script>

<template>
  <dialog-card :show="true" title="Task" style="max-width: 34rem" @update:show="emit('cancel')">
    <form id="task" @submit.prevent="keep">
      <task-form v-model="draft" />
      <n-checkbox v-model:checked="isClosed" class="closed">Closed: nothing can be handed in any more</n-checkbox>
    </form>
    <problem-text v-if="problem">{{ problem }}</problem-text>
    <template v-if="isDropping" #footer>
      <span>All that was made of it goes for good.</span>
      <n-button @click="isDropping = false">Leave it</n-button>
      <n-button type="error" @click="drop">Delete for good</n-button>
    </template>
    <template v-else #footer>
      <n-button quaternary @click="isDropping = true">Delete the task</n-button>
      <n-button type="primary" size="large" attr-type="submit" form="task">Keep</n-button>
    </template>
  </dialog-card>
</template>

<style scoped>
.closed {
  margin-top: 0.9rem;
}
</style>
