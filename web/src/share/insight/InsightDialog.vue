<script setup lang="ts">
import type { SchoolClass } from '@kite-trail/core/contract/class';
import type { Insight } from '@kite-trail/core/contract/visit';
import { IconTable } from '@tabler/icons-vue';
import { NButton, NPopconfirm, NSwitch } from 'naive-ui';
import { computed, defineAsyncComponent, ref } from 'vue';
import { useAttempt } from '../../controls/attempt';
import DialogCard from '../../controls/DialogCard.vue';
import ProblemText from '../../controls/ProblemText.vue';
import SelectField from '../../controls/SelectField.vue';
import { fileNameOf } from '../../device/file-name';
import { saveText } from '../../device/save-file';
import { useLesson } from '../../lesson/lesson';
import { clockText } from '../../look/time';
import { api } from '../../server/api';
import { useListening } from '../../trail/listening';
import { countedOf, mostOften, reached, stretchOf, tableOf, type Whose } from './insight';
import InsightTrail from './InsightTrail.vue';

/** How the lesson was watched, over its trail: of all, of a class, or by one link. */
const props = defineProps<{ insight: Insight; classes: readonly SchoolClass[] }>();
const emit = defineEmits<{ close: []; changed: [] }>();

// Charts are large, and few look at them.
const VisitDays = defineAsyncComponent(() => import('./VisitDays.vue'));

const lesson = useLesson();
const listening = useListening();
const { problem, attempt } = useAttempt();
const ALL = 'all';
const chosen = ref(ALL);
const isCounted = ref(props.insight.isCounted);

const classNamed = (id: string | null) => props.classes.find((one) => one.id === id)?.name;
const nameOf = ({ name, schoolClass }: Insight['links'][number]) => name || classNamed(schoolClass) || 'The lesson';
const watched = computed(() => props.insight.links.filter(({ visits }) => visits > 0));
const choices = computed((): { value: string; label: string; whose: Whose }[] => {
  const classes = props.classes.filter(({ id }) => watched.value.some(({ schoolClass }) => schoolClass === id));
  return [
    { value: ALL, label: 'Everybody', whose: { kind: 'all' } },
    ...classes.map(({ id, name }) => ({
      value: `class ${id}`,
      label: `Class ${name}`,
      whose: { kind: 'class', id } as const,
    })),
    ...watched.value.map((link) => ({
      value: link.token,
      label: `Link: ${nameOf(link)}`,
      whose: { kind: 'link', token: link.token } as const,
    })),
  ];
});
const counted = computed(() => {
  const found = choices.value.find(({ value }) => value === chosen.value);
  return countedOf(props.insight, found?.whose ?? { kind: 'all' });
});

/** What deserves to be looked at, in words. */
const sentences = computed(() => {
  const { visits, sums } = counted.value;
  const { lengthSamples } = props.insight;
  const timeOf = (step: number) => clockText(stretchOf(lengthSamples, step).fromSamples);
  const ends = reached(sums).at(-1) ?? 0;
  // Whoever ends at the end has not given up.
  const gaveUp = mostOften(sums.stopped.slice(0, -1));
  const wentBack = mostOften(sums.wentBack);
  const slowed = mostOften(sums.slowed);
  return [
    `${ends} of ${visits} came to the end.`,
    ...(gaveUp === null ? [] : [`Most who stopped earlier stopped at ${timeOf(gaveUp)}.`]),
    ...(wentBack === null ? [] : [`Most went back to ${timeOf(wentBack)}.`]),
    ...(slowed === null ? [] : [`Most slowed down at ${timeOf(slowed)}.`]),
  ];
});

function count(is: boolean) {
  isCounted.value = is;
  void attempt(async () => {
    await api.countLesson(lesson.document!.id, is);
    emit('changed');
  });
}

const forget = () =>
  attempt(async () => {
    await api.forgetCounts(lesson.document!.id);
    emit('changed');
    emit('close');
  });

async function save() {
  const { unparse } = await import('papaparse');
  // Spreadsheets take what begins like a formula for one.
  const text = unparse(tableOf(props.insight, nameOf), { escapeFormulae: true });
  saveText(fileNameOf(lesson.document!.title, ', watched.csv'), 'text/csv', text);
}

function goTo(samples: number) {
  listening.seek(samples);
  emit('close');
}
</script>

<template>
  <dialog-card title="How it was watched" show style="width: min(1100px, 96vw)" @update:show="emit('close')">
    <p v-if="insight.links.every(({ visits }) => visits === 0)" class="note">
      Nobody has watched it yet, or nothing was counted.
    </p>
    <template v-else>
      <div class="head">
        <select-field v-model="chosen" class="whose" label="Whose visits" :options="choices" />
        <p class="told">
          <b>{{ counted.visits }} {{ counted.visits === 1 ? 'visit' : 'visits' }}.</b> {{ sentences.join(' ') }}
        </p>
      </div>
      <insight-trail
        :picture="listening.picture"
        :length-samples="insight.lengthSamples"
        :counted="counted"
        @seek="goTo"
      />
      <visit-days :days="counted.days" />
    </template>
    <div class="foot">
      <label class="counting">
        <n-switch
          aria-label="Count how this lesson is watched"
          :value="isCounted"
          :disabled="!insight.isCounting"
          @update:value="count"
        />
        Count how this lesson is watched
      </label>
      <span class="grow"></span>
      <n-popconfirm @positive-click="forget">
        <template #trigger><n-button quaternary>Delete the counts</n-button></template>
        All that was counted of this lesson goes for good.
      </n-popconfirm>
      <n-button :disabled="watched.length === 0" @click="save">
        <template #icon><icon-table /></template>Save as CSV
      </n-button>
    </div>
    <p class="note">
      {{ insight.isCounting ? '' : 'Whoever keeps the school has switched counting off. ' }}Sums alone are kept: no
      names, no addresses. Students read on the watch page that it is counted.
    </p>
    <problem-text v-if="problem">{{ problem }}</problem-text>
  </dialog-card>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem 1.2rem;
  align-items: center;
  margin-bottom: 0.8rem;
}

.whose {
  width: 16rem;
}

.told {
  flex: 1;
  min-width: 16rem;
  margin: 0;
}

.foot {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
  align-items: center;
  margin-top: 0.6rem;
}

.counting {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  min-height: 44px;
}

.grow {
  flex: 1;
}

.note {
  margin: 0.6rem 0 0;
  color: var(--ink-soft);
}
</style>
