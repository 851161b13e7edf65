<script setup lang="ts">
import type { SchoolClass } from '@kite-trail/core/contract/class';
import { linkSettings, newPasscode, USUAL_LINK, type Link, type LinkSettings } from '@kite-trail/core/contract/link';
import type { ClassId } from '@kite-trail/core/lesson/ids';
import { partBetween, type Part } from '@kite-trail/core/trail/part';
import { NButton, NCheckbox, NDatePicker } from 'naive-ui';
import { computed, ref } from 'vue';
import ProblemText from '../../controls/ProblemText.vue';
import RangeField from '../../controls/RangeField.vue';
import SelectField from '../../controls/SelectField.vue';
import TextField from '../../controls/TextField.vue';
import { useLesson } from '../../lesson/lesson';
import { clockText } from '../../look/time';

/** What a link allows, and for how long: of one that is there, or of a new one. */
const { link, classes } = defineProps<{ link: Link | null; classes: readonly SchoolClass[]; isBusy: boolean }>();
const emit = defineEmits<{
  close: [];
  /** `passcode`: a new one, `null` for none any more, `undefined` where it stays. */
  keep: [settings: LinkSettings, passcode: string | null | undefined, part: Part | null];
}>();

const MINUTE_MS = 60_000;
const HALF_HOUR = 30 * MINUTE_MS;
const DAY_MS = 24 * 60 * MINUTE_MS;
const NEVER = 'never';
const AT = 'at';
const NO_CLASS = '';
const STEP_SAMPLES = 48_000;

const lesson = useLesson();
const before = link?.settings ?? USUAL_LINK;
const name = ref(before.name);
const schoolClass = ref<ClassId | typeof NO_CLASS>(before.schoolClass ?? NO_CLASS);
const ends = ref<string>(before.endsAt === null ? NEVER : AT);
const endsAtMs = ref(before.endsAt === null ? Date.now() + DAY_MS : Date.parse(before.endsAt));
const passcode = ref('');
const losesPasscode = ref(false);
const hasCaptions = ref(before.allows.captions);
const mayAsk = ref(before.allows.questions);
const isToSave = ref(before.allows.download);
const isListed = ref(before.isListed);
const mayCopy = ref(before.mayCopy);
const sites = ref(before.sites.join('\n'));
const isPart = ref(false);
const from = ref(0);
const to = ref(lesson.lengthSamples);
const problem = ref('');

const classChoices = computed(() => [
  { value: NO_CLASS as ClassId | typeof NO_CLASS, label: 'No class' },
  ...classes.map((one) => ({ value: one.id, label: one.name })),
  // Whoever works on the lesson too may share it with a class of theirs.
  ...(before.schoolClass && !classes.some(({ id }) => id === before.schoolClass)
    ? [{ value: before.schoolClass, label: 'A colleague’s class' }]
    : []),
]);
const ENDS = [
  { value: NEVER, label: 'Never' },
  { value: String(HALF_HOUR), label: 'In 30 minutes' },
  { value: String(DAY_MS), label: 'In a day' },
  { value: AT, label: 'On a day…' },
];

function endOf(): string | null {
  if (ends.value === NEVER) return null;
  return new Date(ends.value === AT ? endsAtMs.value : Date.now() + Number(ends.value)).toISOString();
}

function keep() {
  const read = linkSettings.safeParse({
    name: name.value,
    schoolClass: schoolClass.value === NO_CLASS ? null : schoolClass.value,
    isListed: isListed.value,
    mayCopy: isListed.value && mayCopy.value,
    endsAt: endOf(),
    allows: { captions: hasCaptions.value, download: isToSave.value, questions: mayAsk.value },
    sites: sites.value.split(/\s+/).filter(Boolean),
  });
  const asks = passcode.value.trim() || (losesPasscode.value ? null : undefined);
  const asked = newPasscode.safeParse({ passcode: asks ?? null });
  problem.value = (read.error ?? asked.error)?.issues[0].message ?? '';
  if (isPart.value && from.value >= to.value) problem.value = 'The part ends before it begins. Move one of its ends.';
  if (!read.success || problem.value) return;
  const stretch = { fromSamples: from.value, toSamples: to.value };
  emit('keep', read.data, asks, isPart.value ? partBetween(lesson.programme, stretch) : null);
}
</script>

<template>
  <form class="form" @submit.prevent="keep">
    <text-field v-model="name" label="What you call it" :most="60" placeholder="For those who were away" />
    <label>
      On the page of
      <select-field v-model="schoolClass" label="On the page of" :options="classChoices" />
    </label>
    <label>
      It ends
      <select-field v-model="ends" label="It ends" :options="ENDS" />
      <n-date-picker
        v-if="ends === AT"
        v-model:value="endsAtMs"
        type="datetime"
        size="large"
        format="yyyy-MM-dd HH:mm"
        :input-props="{ 'aria-label': 'When it ends' }"
      />
    </label>
    <div class="field">
      <text-field
        v-model="passcode"
        label="Passcode"
        :most="60"
        :placeholder="link?.hasPasscode && !losesPasscode ? 'As it is' : 'None'"
      />
      <n-checkbox v-if="link?.hasPasscode" v-model:checked="losesPasscode">No passcode any more</n-checkbox>
    </div>
    <fieldset v-if="!link" class="wide">
      <legend>What it leads to</legend>
      <n-checkbox v-model:checked="isPart">A part only</n-checkbox>
      <template v-if="isPart">
        <range-field v-model="from" :min="0" :max="lesson.lengthSamples" :step="STEP_SAMPLES">
          From {{ clockText(from) }}
        </range-field>
        <range-field v-model="to" :min="0" :max="lesson.lengthSamples" :step="STEP_SAMPLES">
          To {{ clockText(to) }}
        </range-field>
        <p class="note">Nothing else can be watched by this link.</p>
      </template>
    </fieldset>
    <fieldset>
      <legend>Students may</legend>
      <n-checkbox v-model:checked="hasCaptions">Read captions</n-checkbox>
      <n-checkbox v-model:checked="isToSave">Save sound and text</n-checkbox>
      <n-checkbox v-model:checked="mayAsk">Leave questions, and read those you answer</n-checkbox>
    </fieldset>
    <fieldset>
      <legend>Other teachers</legend>
      <n-checkbox v-model:checked="isListed">Find it in the school’s catalogue</n-checkbox>
      <n-checkbox v-if="isListed && !isPart && !link?.part" v-model:checked="mayCopy"
        >May copy it, with all recordings</n-checkbox
      >
    </fieldset>
    <div class="wide">
      <text-field
        v-model="sites"
        label="Sites that may show it within their pages"
        :most="4000"
        :rows="2"
        placeholder="https://learn.example.org"
      />
    </div>
    <problem-text v-if="problem" class="wide">{{ problem }}</problem-text>
    <div class="wide ends">
      <n-button size="large" @click="emit('close')">Cancel</n-button>
      <n-button size="large" type="primary" attr-type="submit" :disabled="isBusy">
        {{ link ? 'Keep' : 'Make the link' }}
      </n-button>
    </div>
  </form>
</template>

<style scoped src="../dialog-form.css"></style>

<style scoped>
.field {
  display: grid;
  gap: 0.35rem;
  min-width: 0;
}

.note {
  margin: 0;
  color: var(--ink-soft);
}
</style>
