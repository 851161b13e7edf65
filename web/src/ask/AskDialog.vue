<script setup lang="ts">
import type { SchoolClass } from '@kite-trail/core/contract/class';
import { titleOf } from '@kite-trail/core/contract/lesson';
import { MOST_CHOICES } from '@kite-trail/core/contract/task';
import { NButton, NCheckbox } from 'naive-ui';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';
import { useSelection } from '../board/selection/selection';
import { useAttempt } from '../controls/attempt';
import DialogCard from '../controls/DialogCard.vue';
import ProblemText from '../controls/ProblemText.vue';
import RadioField from '../controls/RadioField.vue';
import SelectField from '../controls/SelectField.vue';
import TextField from '../controls/TextField.vue';
import { useLesson } from '../lesson/lesson';
import { useSurface } from '../lesson/surface';
import { api } from '../server/api';
import { tasksApi } from '../server/tasks';

/** What is asked, and whom. All but the class may stay as it is. */
const emit = defineEmits<{ close: [] }>();
const lesson = useLesson();
const surface = useSurface();
const selection = useSelection();
const router = useRouter();
const { problem, attempt } = useAttempt();

const classes = shallowRef<readonly SchoolClass[] | null>(null);
const to = ref('');
const question = ref('');
const choices = ref('');
const isOpen = ref(true);
const mayPhotograph = ref(true);
/** What is given out: all of the page, or what is held of it. */
const scope = ref<'page' | 'held'>('page');
const held = selection.pieces.map(({ id }) => id);
const isBusy = ref(false);
const named = computed(() => choices.value.split('\n').flatMap((line) => line.trim() || []));

onMounted(() =>
  attempt(async () => {
    classes.value = (await api.classes()).filter(({ isArchived }) => !isArchived);
    const own = classes.value.find(({ lessons }) => lessons.includes(lesson.document!.id)) ?? classes.value[0];
    to.value = own?.id ?? '';
  }),
);

async function ask() {
  isBusy.value = true;
  await attempt(async () => {
    if (named.value.length > MOST_CHOICES) throw new Error(`Give ${MOST_CHOICES} choices at most.`);
    await lesson.save();
    const schoolClass = classes.value!.find(({ id }) => id === to.value)!;
    const id = await tasksApi.giveOut(lesson.document!.id, {
      title: titleOf(question.value.trim().replace(/\s+/g, ' ') || lesson.document!.title),
      question: question.value,
      dueAt: null,
      takesLate: true,
      allows: mayPhotograph.value ? ['text', 'pictures'] : ['text'],
      criteria: [],
      instruction: null,
      example: null,
      choices: named.value,
      isLive: true,
      isOpen: isOpen.value,
      schoolClass: schoolClass.id,
      page: surface.moment!.scene.shown,
      pieces: scope.value === 'held' ? held : null,
    });
    emit('close');
    await router.push({ name: 'task', params: { taskId: id } });
  });
  isBusy.value = false;
}
</script>

<template>
  <dialog-card :show="true" title="Ask the class" style="max-width: 32rem" @update:show="emit('close')">
    <form id="ask" class="form" @submit.prevent="ask">
      <p class="note">Each answers on a copy of this page. You see all answers while they are written.</p>
      <label v-if="classes && classes.length > 1">
        Who is asked
        <select-field
          v-model="to"
          label="Who is asked"
          :options="classes.map(({ id, name }) => ({ value: id as string, label: name }))"
        />
      </label>
      <p v-else-if="classes?.length === 0" class="note">Make a class at Home first.</p>
      <text-field v-model="question" label="The question, where it is not on the page" :rows="2" :most="2000" />
      <text-field v-model="choices" label="Choices, one on each line, where there are any" :rows="2" :most="800" />
      <radio-field
        v-if="held.length > 0"
        v-model="scope"
        label="What they get"
        :options="[
          { value: 'page', label: 'All of this page' },
          { value: 'held', label: 'What is held of it' },
        ]"
      />
      <n-checkbox v-model:checked="mayPhotograph">They may answer by a photograph</n-checkbox>
      <n-checkbox v-model:checked="isOpen">Whoever has the code may answer, under a name they write</n-checkbox>
    </form>
    <problem-text v-if="problem">{{ problem }}</problem-text>
    <template #footer>
      <n-button type="primary" size="large" attr-type="submit" form="ask" :disabled="to === ''" :loading="isBusy"
        >Ask</n-button
      >
    </template>
  </dialog-card>
</template>

<style scoped>
.form {
  display: grid;
  gap: 0.9rem;
}

label {
  display: grid;
  gap: 0.35rem;
}

.note {
  margin: 0;
  color: var(--ink-soft);
}
</style>
