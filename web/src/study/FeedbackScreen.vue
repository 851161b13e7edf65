<script setup lang="ts">
import type { HandInId, PageId } from '@kite-trail/core/lesson/ids';
import { IconPlayerPlayFilled } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { useAttempt } from '../controls/attempt';
import ProblemText from '../controls/ProblemText.vue';
import TextField from '../controls/TextField.vue';
import { momentText } from '../look/time';
import { feedbackPageUrl, ownWork } from '../server/own-work';
import { pointsText } from './due';
import { useOwnTasks } from './own-tasks';

/** What came back: heard and replayed, and read on the pages as they are now. */
const { handIn } = defineProps<{ handIn: HandInId }>();
const tasks = useOwnTasks();
const { problem, attempt } = useAttempt();
const pages = shallowRef<PageId[] | null>(null);

const own = computed(() => tasks.all?.find(({ reply }) => reply?.feedback?.handIn === handIn) ?? null);
const feedback = computed(() => own.value?.reply?.feedback ?? null);
const criteria = computed(() => own.value?.task?.criteria ?? []);
/** What is said to it. */
const said = ref('');
watch(
  () => feedback.value?.answer,
  (now) => (said.value = now ?? ''),
  { immediate: true },
);
const answer = () =>
  attempt(async () => {
    await ownWork.answer(handIn, said.value);
    await tasks.load();
  });
const sum = computed(() => feedback.value && pointsText(feedback.value.points, criteria.value));

onMounted(() =>
  attempt(async () => {
    if (tasks.all === null) await tasks.load();
    pages.value = await ownWork.feedbackPages(handIn);
    await ownWork.see(handIn);
  }),
);
</script>

<template>
  <header class="head">
    <router-link :to="{ name: 'home' }" aria-label="All tasks"><img src="/kite.svg" alt="" class="kite" /></router-link>
    <h1 dir="auto">{{ own?.title }}</h1>
  </header>
  <main class="feedback">
    <problem-text v-if="problem">{{ problem }}</problem-text>
    <template v-if="feedback && own">
      <p class="given">Given back {{ momentText(feedback.givenAt) }}</p>
      <n-button v-if="feedback.watch" tag="a" type="primary" size="large" :href="`/w/${feedback.watch}`" class="hear">
        <template #icon><icon-player-play-filled :size="20" /></template>Hear what was said
      </n-button>
      <p v-if="feedback.note" class="note" dir="auto">{{ feedback.note }}</p>
      <table v-if="sum" class="criteria">
        <tbody>
          <tr v-for="({ name, points }, n) in criteria" :key="name">
            <th scope="row">{{ name }}</th>
            <td>{{ feedback.points[n] ?? '–' }} of {{ points }}</td>
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">Together</th>
            <td>{{ sum }}</td>
          </tr>
        </tfoot>
      </table>
      <img
        v-for="(page, n) in pages ?? []"
        :key="page"
        :src="feedbackPageUrl(handIn, page, feedback.givenAt)"
        :alt="`Page ${n + 1} with what was written on it`"
        class="page"
      />
      <form class="answer" @submit.prevent="answer">
        <text-field v-model="said" label="Answer your teacher, or ask back" :rows="2" :most="1000" />
        <n-button attr-type="submit" size="large" :disabled="said.trim() === (feedback.answer ?? '')">
          {{ feedback.answer ? 'Change it' : 'Send' }}
        </n-button>
      </form>
      <router-link :to="{ name: 'lesson', params: { lessonId: own.reply!.lesson } }" class="again">
        Change your work, and hand it in again
      </router-link>
    </template>
    <p v-else-if="tasks.waitsFor" role="status">{{ tasks.waitsFor }}</p>
  </main>
</template>

<style scoped>
.head {
  display: flex;
  gap: 0.8rem;
  align-items: center;
  max-width: 52rem;
  padding: 1rem 1.2rem 0.4rem;
  margin: 0 auto;
}

.kite {
  display: block;
  width: 40px;
}

h1 {
  margin: 0;
  font-size: 1.3rem;
}

.feedback {
  display: grid;
  gap: 1rem;
  max-width: 52rem;
  padding: 0.4rem 1.2rem 3rem;
  margin: 0 auto;
}

.feedback > p {
  margin: 0;
}

.given {
  color: var(--ink-soft);
}

.hear {
  justify-self: start;
}

.note {
  padding: 0.9rem 1.1rem;
  font-size: 1.1rem;
  white-space: pre-line;
  background: var(--paper);
  border-inline-start: 4px solid var(--tail);
  border-radius: var(--radius);
}

.criteria {
  width: min(26rem, 100%);
  border-collapse: collapse;
}

.criteria th,
.criteria td {
  padding: 0.4rem 0;
  font-weight: 400;
  text-align: start;
  border-top: 1px solid var(--line);
}

.criteria td {
  text-align: end;
}

tfoot th,
tfoot td {
  font-weight: 650 !important;
}

.page {
  width: 100%;
  background: #fff;
  border-radius: var(--radius);
  box-shadow: var(--shadow);
}

.answer {
  display: grid;
  gap: 0.6rem;
  justify-items: end;
}

.answer > :first-child {
  width: 100%;
}

.again {
  color: var(--tail);
}
</style>
