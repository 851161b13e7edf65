<script setup lang="ts">
import type { ClassId } from '@kite-trail/core/lesson/ids';
import { NButton } from 'naive-ui';
import { computed, ref } from 'vue';
import DialogCard from '../controls/DialogCard.vue';
import ProblemText from '../controls/ProblemText.vue';
import SelectField from '../controls/SelectField.vue';
import TextField from '../controls/TextField.vue';
import { useLessons } from './lessons';

/** What a new lesson is called, and which class it is for. */
const { within } = defineProps<{ within: ClassId | null; problem: string }>();
const title = defineModel<string>('title', { required: true });
const emit = defineEmits<{ close: []; make: [classes: ClassId[]] }>();

const NONE = '';
const store = useLessons();
const taughtTo = ref<ClassId | typeof NONE>(within ?? NONE);
const classes = computed(() => [
  { value: NONE as ClassId | typeof NONE, label: 'No class yet' },
  ...store.classes
    .filter(({ id, isArchived }) => !isArchived || id === within)
    .map(({ id, name }) => ({ value: id, label: name })),
]);
</script>

<template>
  <dialog-card :show="true" title="New lesson" style="max-width: 28rem" @update:show="emit('close')">
    <form class="form" @submit.prevent="emit('make', taughtTo === NONE ? [] : [taughtTo])">
      <text-field v-model="title" label="Name" :most="120" placeholder="What do you explain?" autofocus />
      <label v-if="classes.length > 1">
        Class
        <select-field v-model="taughtTo" label="Class" :options="classes" />
      </label>
      <problem-text v-if="problem">{{ problem }}</problem-text>
      <n-button type="primary" attr-type="submit" size="large">Make the lesson</n-button>
    </form>
  </dialog-card>
</template>

<style scoped>
.form {
  display: grid;
  gap: 1.1rem;
}

.form label {
  display: grid;
  gap: 0.35rem;
}
</style>
