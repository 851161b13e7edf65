<script setup lang="ts">
import { CLASS_COLORS, type ClassColor, type SchoolClass } from '@kite-trail/core/contract/class';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { NButton, NCheckbox } from 'naive-ui';
import { computed, onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import DialogCard from '../../controls/DialogCard.vue';
import ProblemText from '../../controls/ProblemText.vue';
import SelectField from '../../controls/SelectField.vue';
import TextField from '../../controls/TextField.vue';
import { studentsKeptApi } from '../../server/tasks';
import ClassPennant from './ClassPennant.vue';
import DropDialog from '../DropDialog.vue';
import { useLessons } from '../lessons';

/** What a class is called and looks like; a new one where there is none yet. */
const { schoolClass = null } = defineProps<{ schoolClass?: SchoolClass | null }>();
const emit = defineEmits<{ close: [] }>();

const FIRST = '';
const store = useLessons();
// What went wrong before has nothing to do with this.
store.problem = '';
const router = useRouter();
const name = ref(schoolClass?.name ?? '');
const color = ref<ClassColor>(schoolClass?.color ?? CLASS_COLORS[store.classes.length % CLASS_COLORS.length]);
const cover = ref<LessonId | typeof FIRST>(schoolClass?.cover ?? FIRST);
const isArchived = ref(schoolClass?.isArchived ?? false);
const isDropping = ref(false);
/** How long what students made is kept then; `null` while it is not known. */
const keptDays = ref<number | null>(null);
onMounted(async () => (keptDays.value = await studentsKeptApi.days().catch(() => null)));

const covers = computed(() => [
  { value: FIRST as LessonId | typeof FIRST, label: 'The first of its lessons' },
  ...(schoolClass?.lessons ?? []).flatMap((id) => {
    const lesson = store.lessons?.find((one) => one.id === id);
    return lesson ? [{ value: id, label: lesson.title }] : [];
  }),
]);

async function keep() {
  const about = { name: name.value.trim(), color: color.value };
  const isKept = schoolClass
    ? await store.changeClass(schoolClass.id, {
        ...about,
        cover: cover.value === FIRST ? null : cover.value,
        isArchived: isArchived.value,
      })
    : await store.makeClass(about);
  if (isKept) emit('close');
}

async function drop() {
  if (!schoolClass || !(await store.dropClass(schoolClass.id))) return;
  emit('close');
  await router.replace('/');
}
</script>

<template>
  <dialog-card
    :show="true"
    :title="schoolClass ? 'Class' : 'New class'"
    style="max-width: 28rem"
    @update:show="emit('close')"
  >
    <form class="form" @submit.prevent="keep">
      <text-field v-model="name" label="Name" name="Class name" :most="60" autofocus />
      <fieldset class="colors">
        <legend>Pennant</legend>
        <label v-for="one in CLASS_COLORS" :key="one" class="color" :title="one">
          <input
            v-model="color"
            type="radio"
            name="class-color"
            class="visually-hidden"
            :value="one"
            :aria-label="one"
          />
          <class-pennant :color="one" />
        </label>
      </fieldset>
      <template v-if="schoolClass">
        <label>
          Its picture
          <select-field v-model="cover" label="Picture of the class" :options="covers" />
        </label>
        <n-checkbox v-model:checked="isArchived">A past class: it stands apart, with its lessons</n-checkbox>
        <p v-if="isArchived && keptDays !== null" class="note" role="status">
          What its students made and handed in, with what you wrote and spoke on it, goes for good {{ keptDays }} days
          after the class has ended. Your own lessons stay.
        </p>
      </template>
      <problem-text v-if="store.problem">{{ store.problem }}</problem-text>
      <div class="buttons">
        <n-button v-if="schoolClass" quaternary @click="isDropping = true">Delete the class</n-button>
        <span class="room"></span>
        <n-button type="primary" attr-type="submit" size="large" :disabled="name.trim() === ''">
          {{ schoolClass ? 'Keep' : 'Make the class' }}
        </n-button>
      </div>
    </form>
  </dialog-card>
  <drop-dialog
    v-if="isDropping && schoolClass"
    :title="`Delete ${schoolClass.name}?`"
    action="Delete the class"
    @close="isDropping = false"
    @drop="drop"
  >
    Its lessons stay; they are found under “All lessons”, and in the other classes they are in. Its students and tasks
    go for good, with all that was handed in.
  </drop-dialog>
</template>

<style scoped>
.form {
  display: grid;
  gap: 1.1rem;
}

.form > label {
  display: grid;
  gap: 0.35rem;
}

.note {
  margin: 0;
  color: var(--ink-soft);
}

.colors {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  padding: 0;
  margin: 0;
  border: 0;
}

.color {
  display: grid;
  place-items: center;
  width: 44px;
  height: 44px;
  cursor: pointer;
  border-radius: var(--radius);
}

.color:has(:checked) {
  background: var(--straw-pale);
  outline: 2px solid var(--straw);
}

.color:has(:focus-visible) {
  outline: 3px solid var(--tail);
}

.buttons {
  display: flex;
  gap: 12px;
  align-items: center;
}

.room {
  flex: 1;
}
</style>
