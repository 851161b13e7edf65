<script setup lang="ts">
import type { SchoolClass } from '@kite-trail/core/contract/class';
import { isAnswered, type Question } from '@kite-trail/core/contract/question';
import { placeSegments, whenPlayed } from '@kite-trail/core/trail/programme';
import { IconMicrophone, IconTrash } from '@tabler/icons-vue';
import { NButton, NPopconfirm } from 'naive-ui';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import DialogCard from '../../controls/DialogCard.vue';
import ProblemText from '../../controls/ProblemText.vue';
import { useAttempt } from '../../controls/attempt';
import { useLesson } from '../../lesson/lesson';
import { clockText } from '../../look/time';
import { api } from '../../server/api';
import { useListening } from '../../trail/listening';
import { useBegunAnswers } from './begun-answers';

/** What students have asked, at which moment, and what the teacher answers: answered ones are read by all who watch. */
const props = defineProps<{ questions: readonly Question[]; classes: readonly SchoolClass[] }>();
const emit = defineEmits<{ close: []; changed: [questions: Question[]] }>();

const lesson = useLesson();
const listening = useListening();
const { problem, attempt } = useAttempt();
const begun = useBegunAnswers();
const router = useRouter();
const DAY = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium' });

/** Where each is in the trail now, or `null` where its moment has been cut out. */
const places = computed(() => {
  const placed = placeSegments(lesson.programme);
  return new Map(props.questions.map(({ id, moment }) => [id, whenPlayed(placed, moment)]));
});
const fromWhom = ({ link, schoolClass, askedAt }: Question) =>
  [props.classes.find(({ id }) => id === schoolClass)?.name ?? link, DAY.format(new Date(askedAt))]
    .filter(Boolean)
    .join(', ');

const answer = (question: Question) =>
  attempt(async () => {
    const text = begun.textOf(question).trim();
    emit('changed', await api.answerQuestion(lesson.document!.id, question.id, text));
    begun.forget(question);
  });
const drop = (question: Question) =>
  attempt(async () => {
    emit('changed', await api.dropQuestion(lesson.document!.id, question.id));
    begun.forget(question);
  });

/** In a lesson of its own: what is shown at the question's moment lies there to be written on. */
const record = (question: Question) =>
  attempt(async () => {
    const made = await api.answerByRecording(lesson.document!.id, question.id);
    await router.push({ name: isShared(question) ? 'trim' : 'record', params: { lessonId: made } });
  });
const isShared = ({ recording }: Question) => recording !== null && recording.token !== null;
const recordLabel = (question: Question) => {
  if (isShared(question)) return 'Open the recorded answer';
  return question.recording ? 'Go on with the recorded answer' : 'Record an answer';
};

function goTo(samples: number) {
  listening.seek(samples);
  emit('close');
}
</script>

<template>
  <dialog-card title="Questions" show style="width: min(760px, 96vw)" @update:show="emit('close')">
    <p v-if="questions.length === 0" class="note">
      Nobody has asked anything. Whether students may ask is among a link’s rules.
    </p>
    <ol v-else>
      <li v-for="one in questions" :key="one.id">
        <div class="head">
          <span v-if="places.get(one.id) === null" class="note">cut out</span>
          <button v-else class="time" @click="goTo(places.get(one.id)!)">{{ clockText(places.get(one.id)!) }}</button>
          <span class="note">{{ fromWhom(one) }}</span>
          <span class="grow"></span>
          <n-popconfirm @positive-click="drop(one)">
            <template #trigger>
              <n-button quaternary :aria-label="`Delete: ${one.question}`">
                <template #icon><icon-trash :size="18" /></template>
              </n-button>
            </template>
            The question and its answer go for good.
          </n-popconfirm>
        </div>
        <p class="question" dir="auto">{{ one.question }}</p>
        <label>
          {{ isAnswered(one) ? 'Answered, for all who watch' : 'Your answer, for all who watch' }}
          <textarea
            rows="2"
            maxlength="2000"
            dir="auto"
            :aria-label="`Your answer to: ${one.question}`"
            :value="begun.textOf(one)"
            @input="begun.write(one, ($event.target as HTMLTextAreaElement).value)"
          ></textarea>
        </label>
        <div class="send">
          <span v-if="one.recording && !isShared(one)" class="note"
            >Share what you record there, and it stands here.</span
          >
          <n-button :aria-label="`${recordLabel(one)}: ${one.question}`" @click="record(one)">
            <template #icon><icon-microphone :size="18" /></template>
            {{ recordLabel(one) }}
          </n-button>
          <n-button v-if="begun.isBegun(one)" type="primary" @click="answer(one)">
            {{ begun.textOf(one).trim() === '' ? 'Take the answer back' : 'Answer' }}
          </n-button>
        </div>
      </li>
    </ol>
    <problem-text v-if="problem">{{ problem }}</problem-text>
  </dialog-card>
</template>

<style scoped src="../../controls/long-text.css"></style>
<style scoped>
ol {
  display: grid;
  gap: 1rem;
  padding: 0;
  margin: 0;
  list-style: none;
}

li {
  display: grid;
  gap: 0.3rem;
  padding-bottom: 0.8rem;
  border-bottom: 1px solid var(--line);
}

.head {
  display: flex;
  gap: 0.7rem;
  align-items: center;
}

.grow {
  flex: 1;
}

.time {
  min-width: 3rem;
  min-height: 44px;
  padding: 0;
  font: inherit;
  font-variant-numeric: tabular-nums;
  color: var(--tail);
  text-align: start;
  cursor: pointer;
  background: transparent;
  border: 0;
}

.question {
  margin: 0;
  font-size: 1.1rem;
  white-space: pre-line;
}

.send {
  display: flex;
  flex-wrap: wrap;
  gap: 0.7rem;
  align-items: center;
  justify-content: flex-end;
}

.note {
  margin: 0;
  color: var(--ink-soft);
}
</style>
