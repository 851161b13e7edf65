<script setup lang="ts">
import type { OwnTask } from '@kite-trail/core/contract/task';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { IconMicrophone } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { useIntervalFn } from '@vueuse/core';
import { computed, onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { useOutbox } from '../app/outbox';
import { useSession } from '../app/session';
import { useAttempt } from '../controls/attempt';
import DialogCard from '../controls/DialogCard.vue';
import ProblemText from '../controls/ProblemText.vue';
import TextField from '../controls/TextField.vue';
import { api } from '../server/api';
import OutboxStatus from '../set-aside/OutboxStatus.vue';
import { useOwnTasks } from './own-tasks';
import TaskCard from './TaskCard.vue';

/** What a student has to do, what they have handed in, and what came back. */
const session = useSession();
const outbox = useOutbox();
const tasks = useOwnTasks();
const router = useRouter();
const { problem, attempt } = useAttempt();
/** So often it is looked for what is asked. */
const ASKED_EVERY_MS = 5000;
const isExplaining = ref(false);
const title = ref('');

/** A question that is over, and was not answered, is nothing to do any more. */
const isMissed = ({ task, reply }: OwnTask) => task !== null && task.isLive && task.isClosed && reply?.handedAt == null;
const isBack = ({ reply }: OwnTask) => reply?.feedback != null && !reply.feedback.isSeen;
const isAsked = ({ task }: OwnTask) => task !== null && task.isLive && !task.isClosed;
const isHanded = ({ reply }: OwnTask) => reply?.handedAt != null;
const groups = computed(() => {
  const all = tasks.all ?? [];
  return [
    { name: 'Came back', tasks: all.filter(isBack) },
    { name: 'Asked now', tasks: all.filter((one) => !isBack(one) && isAsked(one)) },
    { name: 'To do', tasks: all.filter((one) => !isBack(one) && !isHanded(one) && !isAsked(one) && !isMissed(one)) },
    { name: 'Handed in', tasks: all.filter((one) => !isBack(one) && isHanded(one) && !isAsked(one)) },
  ].filter((group) => group.tasks.length > 0);
});

// What is asked now is seen at once.
useIntervalFn(() => document.visibilityState === 'visible' && tasks.load().catch(() => {}), ASKED_EVERY_MS);
onMounted(async () => {
  await attempt(tasks.load);
  // What this device still owes is sent from here, too.
  await outbox.openIfUsed();
});

const open = (lesson: LessonId) => router.push({ name: 'lesson', params: { lessonId: lesson } });

const begin = (one: OwnTask) => attempt(async () => open(await tasks.begin(one)));

const explain = () => attempt(async () => open(await tasks.explain(title.value.trim())));

async function leave() {
  await attempt(async () => {
    await api.signOut();
    session.end();
    await router.replace({ name: 'sign-in' });
  });
}
</script>

<template>
  <header class="head">
    <img src="/kite.svg" alt="" class="kite" />
    <div class="who">
      <h1>{{ session.student?.name }}</h1>
      <p>{{ session.student?.schoolClass }}</p>
    </div>
    <outbox-status />
    <n-button quaternary @click="leave">This is not me</n-button>
  </header>
  <main class="tasks">
    <problem-text v-if="problem">{{ problem }}</problem-text>
    <p v-if="tasks.waitsFor ?? session.waitsFor" role="status">{{ tasks.waitsFor ?? session.waitsFor }}</p>
    <p v-if="tasks.all?.length === 0" class="none">
      There is nothing to do yet. What your teacher gives out appears here.
    </p>
    <section v-for="group in groups" :key="group.name" :aria-label="group.name">
      <h2>{{ group.name }}</h2>
      <ul class="cards">
        <li v-for="one in group.tasks" :key="one.reply?.id ?? one.task?.id">
          <task-card :own="one" @begin="begin(one)" />
        </li>
      </ul>
    </section>
    <p v-if="tasks.all" class="own">
      <a href="/api/own-archive" download>Take all of my work with me</a>
    </p>
    <n-button v-if="tasks.all" size="large" class="explain" @click="isExplaining = true">
      <template #icon><icon-microphone :size="20" /></template>Explain something yourself
    </n-button>
  </main>
  <dialog-card v-model:show="isExplaining" title="Your own explanation" style="max-width: 28rem">
    <form id="explain" @submit.prevent="explain">
      <text-field v-model="title" label="What do you explain?" :most="120" autofocus />
    </form>
    <p class="note">Only you see it until you hand it in. Then your teacher may share it with the class.</p>
    <template #footer>
      <n-button type="primary" size="large" attr-type="submit" form="explain" :disabled="title.trim() === ''">
        Begin
      </n-button>
    </template>
  </dialog-card>
</template>

<style scoped>
.head {
  display: flex;
  gap: 0.8rem;
  align-items: center;
  max-width: 60rem;
  padding: 1rem 1.2rem;
  margin: 0 auto;
}

.kite {
  width: 40px;
}

.who {
  flex: 1;
  min-width: 0;
}

.who h1 {
  margin: 0;
  overflow: hidden;
  font-size: 1.3rem;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.who p {
  margin: 0;
  color: var(--ink-soft);
}

.tasks {
  display: grid;
  gap: 1.4rem;
  max-width: 60rem;
  padding: 0.5rem 1.2rem 3rem;
  margin: 0 auto;
}

h2 {
  margin: 0 0 0.6rem;
  font-size: 1.05rem;
  color: var(--ink-soft);
}

.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(26rem, 100%), 1fr));
  gap: 1rem;
  padding: 0;
  margin: 0;
  list-style: none;
}

.explain {
  justify-self: start;
}

.own {
  order: 1;
  margin: 0;
}

.own a {
  display: inline-block;
  padding: 0.7rem 0;
  color: var(--ink-soft);
}

.none,
.note {
  color: var(--ink-soft);
}
</style>
