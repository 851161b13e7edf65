<script setup lang="ts">
import { LICENCES, type LessonAbout, type LessonSummary } from '@kite-trail/core/contract/lesson';
import { NAutoComplete, NButton, NDynamicTags, NInput } from 'naive-ui';
import { computed, reactive, ref } from 'vue';
import DialogCard from '../controls/DialogCard.vue';
import ProblemText from '../controls/ProblemText.vue';
import SelectField from '../controls/SelectField.vue';
import { languageChoices } from './languages';
import { useLessons } from './lessons';

/** What a lesson is called, and what is said about it for whoever looks for it. */
const { lesson } = defineProps<{ lesson: LessonSummary }>();
const emit = defineEmits<{ close: [] }>();

const store = useLessons();
const title = ref(lesson.title);
const about = reactive<LessonAbout>({ ...lesson.about, tags: [...lesson.about.tags] });
/** Whoever gives a lesson only a name needs no more than that. */
const isMoreOpen = ref(lesson.about.description !== '' || lesson.about.subject !== '' || lesson.about.tags.length > 0);

const used = (of: (about: LessonAbout) => string) =>
  [...new Set((store.lessons ?? []).map((one) => of(one.about)))].filter(Boolean).sort();
const subjects = computed(() => used(({ subject }) => subject));
const levels = computed(() => used(({ level }) => level));
const languages = languageChoices(lesson.about.language);
const licences = LICENCES.map((value) => ({
  value,
  label:
    value === 'reserved' ? 'All rights reserved' : value === 'CC0' ? 'CC0 1.0: no rights reserved' : `${value} 4.0`,
}));

async function keep() {
  if (await store.say(lesson.id, title.value, { ...about })) emit('close');
}
</script>

<template>
  <dialog-card :show="true" title="Lesson" style="max-width: 34rem" @update:show="emit('close')">
    <form class="form" @submit.prevent="keep">
      <label class="wide">
        Name
        <n-input
          v-model:value="title"
          size="large"
          placeholder=""
          :maxlength="120"
          :input-props="{ 'aria-label': 'Lesson name', dir: 'auto' }"
          autofocus
        />
      </label>
      <n-button v-if="!isMoreOpen" quaternary class="more" @click="isMoreOpen = true">More details</n-button>
      <template v-else>
        <label class="wide">
          What it is about
          <n-input
            v-model:value="about.description"
            size="large"
            type="textarea"
            placeholder=""
            :rows="3"
            :maxlength="2000"
            :input-props="{ 'aria-label': 'What it is about', dir: 'auto' }"
          />
        </label>
        <label>
          Subject
          <n-auto-complete
            v-model:value="about.subject"
            size="large"
            :options="subjects"
            :get-show="() => true"
            placeholder=""
            :input-props="{ 'aria-label': 'Subject', maxlength: 60 }"
          />
        </label>
        <label>
          Level
          <n-auto-complete
            v-model:value="about.level"
            size="large"
            :options="levels"
            :get-show="() => true"
            placeholder=""
            :input-props="{ 'aria-label': 'Level', maxlength: 60 }"
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
