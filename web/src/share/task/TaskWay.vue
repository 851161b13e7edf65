<script setup lang="ts">
import type { SchoolClass } from '@kite-trail/core/contract/class';
import type { TaskId } from '@kite-trail/core/lesson/ids';
import { IconPencilQuestion } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed, ref } from 'vue';
import { useAttempt } from '../../controls/attempt';
import DialogCard from '../../controls/DialogCard.vue';
import ProblemText from '../../controls/ProblemText.vue';
import RadioField from '../../controls/RadioField.vue';
import SelectField from '../../controls/SelectField.vue';
import { useLesson } from '../../lesson/lesson';
import { useSurface } from '../../lesson/surface';
import { tasksApi } from '../../server/tasks';
import { watchUrl } from '../../server/api';
import { aboutOf, newDraft, type TaskDraft } from '../../tasks/task-draft';
import TaskForm from '../../tasks/TaskForm.vue';

/** The lesson's pages, or one of them, are given to a class as a task. */
const { classes } = defineProps<{ classes: readonly SchoolClass[] }>();
const lesson = useLesson();
const surface = useSurface();
const { problem, attempt } = useAttempt();
const draft = ref<TaskDraft | null>(null);
const to = ref('');
const scope = ref<'all' | 'one'>('all');
const made = ref<{ id: TaskId; className: string } | null>(null);
const isBusy = ref(false);

const options = computed(() => classes.map(({ id, name }) => ({ value: id as string, label: name })));
const pageCount = computed(() => surface.moment?.scene.pages.length ?? 1);

function begin() {
  draft.value = newDraft(lesson.document!.title);
  // What was recorded explains it: whoever shares that lets it be heard first.
  const link = lesson.document!.link;
  if (link) draft.value.instruction = watchUrl(link.token);
  to.value = (classes.find(({ lessons }) => lessons.includes(lesson.document!.id)) ?? classes[0])?.id ?? '';
}

async function giveOut() {
  isBusy.value = true;
  await attempt(async () => {
    const about = aboutOf(draft.value!);
    await lesson.save();
    const page = scope.value === 'one' ? surface.moment!.scene.shown : null;
    const schoolClass = classes.find(({ id }) => id === to.value)!;
    const id = await tasksApi.giveOut(lesson.document!.id, {
      ...about,
      schoolClass: schoolClass.id,
      page,
      pieces: null,
    });
    made.value = { id, className: schoolClass.name };
    draft.value = null;
  });
  isBusy.value = false;
}
</script>

<template>
  <div class="way">
    <h2><icon-pencil-question :size="22" /> Task</h2>
    <p v-if="made" role="status">
      {{ made.className }} has it.
      <router-link :to="{ name: 'task', params: { taskId: made.id } }">See what is handed in</router-link>
    </p>
    <p v-else class="note">Students do it on a copy of their own, write, speak, and hand it in.</p>
    <n-button v-if="classes.length > 0" @click="begin">Give it to a class</n-button>
    <p v-else class="note">Make a class at Home first, and write down who is in it.</p>
    <dialog-card
      v-if="draft"
      :show="true"
      title="A task for a class"
      style="max-width: 34rem"
      @update:show="draft = null"
    >
      <form id="give-out" class="form" @submit.prevent="giveOut">
        <label>For<select-field v-model="to" label="For which class" :options="options" /></label>
        <radio-field
          v-if="pageCount > 1"
          v-model="scope"
          label="Which pages"
          :options="[
            { value: 'all', label: `All ${pageCount} pages` },
            { value: 'one', label: 'The page that is shown' },
          ]"
        />
        <task-form v-model="draft" />
      </form>
      <problem-text v-if="problem">{{ problem }}</problem-text>
      <template #footer>
        <n-button
          type="primary"
          size="large"
          attr-type="submit"
          form="give-out"
          :disabled="to === ''"
          :loading="isBusy"
        >
          Give it out
        </n-button>
      </template>
    </dialog-card>
  </div>
</template>

<style scoped src="../way.css"></style>
<style scoped>
.way {
  display: grid;
  gap: 0.6rem;
}

h2 {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  margin: 0;
  font-size: 1.1rem;
}

p {
  margin: 0;
}

.form {
  display: grid;
  gap: 0.9rem;
}

.form > label {
  display: grid;
  gap: 0.35rem;
}

a {
  color: var(--tail);
}
</style>
