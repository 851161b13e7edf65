<script setup lang="ts">
import { LICENCES, type LessonAbout, type LessonSummary } from '@kite-trail/core/contract/lesson';
import { NAutoComplete, NButton, NDynamicTags } from 'naive-ui';
import { reactive, ref } from 'vue';
import DialogCard from '../controls/DialogCard.vue';
import ProblemText from '../controls/ProblemText.vue';
import SelectField from '../controls/SelectField.vue';
import TextField from '../controls/TextField.vue';
import { languageChoices } from './languages';
import { useLessons } from './lessons';

/** What a lesson is called, and what is said about it for whoever looks for it. */
const { lesson } = defineProps<{ lesson: LessonSummary }>();
const emit = defineEmits<{ close: [] }>();

const store = useLessons();
// What went wrong before has nothing to do with this.
store.problem = '';
const title = ref(lesson.title);
const about = reactive<LessonAbout>({ ...lesson.about, tags: [...lesson.about.tags] });
/** Whoever gives a lesson only a name needs no more than that. */
const isMoreOpen = ref(lesson.about.description !== '' || lesson.about.subject !== '' || lesson.about.tags.length > 0);

/** What is mostly the same as what was said about other lessons. */
const SAID_BEFORE = [
  { of: 'subject', label: 'Subject' },
  { of: 'level', label: 'Level' },
] as const;
const saidBefore = (of: 'subject' | 'level') =>
  [...new Set((store.lessons ?? []).map((one) => one.about[of]))].filter(Boolean).sort();
const before = { subject: saidBefore('subject'), level: saidBefore('level') };
const languages = languageChoices(lesson.about.language);
const licences = LICENCES.map((value) => ({
  value,
  label:
    value === 'reserved' ? 'All rights reserved' : value === 'CC0' ? 'CC0 1.0: no rights reserved' : `${value} 4.0`,
}));

async function keep() {
  if (await store.say(lesson, title.value, { ...about })) emit('close');
}
</script>

<template>
  <dialog-card :show="true" title="Lesson" style="max-width: 34rem" @update:show="emit('close')">
    <form class="form" @submit.prevent="keep">
      <text-field v-model="title" class="wide" label="Name" name="Lesson name" :most="120" autofocus />
      <p v-if="lesson.source" class="wide source">
        From “{{ lesson.source.title }}” by {{ lesson.source.teacher
        }}<template v-if="lesson.source.licence !== 'reserved'"> ({{ lesson.source.licence }})</template>.
      </p>
      <n-button v-if="!isMoreOpen" quaternary class="more" @click="isMoreOpen = true">More details</n-button>
      <template v-else>
        <text-field v-model="about.description" class="wide" label="What it is about" :most="2000" :rows="3" />
        <label v-for="one in SAID_BEFORE" :key="one.of">
          {{ one.label }}
          <n-auto-complete
            v-model:value="about[one.of]"
            size="large"
            :options="before[one.of]"
            :get-show="() => true"
            placeholder=""
            :input-props="{ 'aria-label': one.label, maxlength: 60, dir: 'auto' }"
          />
        </label>
        <label>
          Language
          <select-field v-model="about.language" label="Language" :options="languages" />
        </label>
        <label>
          Licence
          <select-field v-model="about.licence" label="Licence" :options="licences" />
        </label>
        <div class="wide tags">
          Tags
          <n-dynamic-tags
            v-model:value="about.tags"
            :max="20"
            :input-props="{ inputProps: { 'aria-label': 'New tag', maxlength: 40 } }"
          />
        </div>
      </template>
      <problem-text v-if="store.problem" class="wide">{{ store.problem }}</problem-text>
      <div class="wide buttons">
        <n-button type="primary" attr-type="submit" size="large" :disabled="title.trim() === ''">Keep</n-button>
      </div>
    </form>
  </dialog-card>
</template>

<style scoped>
.source {
  margin: 0;
  color: var(--ink-soft);
}

.form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 1rem;
}

.form label,
.tags {
  display: grid;
  gap: 0.35rem;
  min-width: 0;
}

.wide {
  grid-column: 1 / -1;
}

.more {
  justify-self: start;
}

.buttons {
  display: flex;
  justify-content: flex-end;
}

@media (max-width: 480px) {
  .form {
    grid-template-columns: 1fr;
  }
}
</style>
