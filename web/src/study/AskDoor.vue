<script setup lang="ts">
import { liveCode } from '@kite-trail/core/contract/live';
import { studentName } from '@kite-trail/core/contract/student';
import type { AskedTask } from '@kite-trail/core/contract/task';
import { onMounted, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';
import { useSession } from '../app/session';
import { useAttempt } from '../controls/attempt';
import { ownWork } from '../server/own-work';
import { useOwnTasks } from './own-tasks';

/** Where somebody comes in who has a task’s code: as who they are known here, or as a guest under a name they write. */
const { code = '' } = defineProps<{ code?: string }>();
const session = useSession();
const tasks = useOwnTasks();
const router = useRouter();
const typed = ref(code);
const name = ref('');
const asked = shallowRef<AskedTask | null>(null);
const { problem, attempt } = useAttempt();

const look = () =>
  attempt(async () => {
    const read = liveCode.safeParse(typed.value);
    if (!read.success) throw new Error(read.error.issues[0].message);
    asked.value = await ownWork.asked(read.data);
    await session.load();
    if (session.student && asked.value.isOwn) await go();
  });

async function go() {
  await tasks.load();
  const own = tasks.all?.find(({ task }) => task?.id === asked.value!.id);
  if (!own) throw new Error('This task is for another class. Ask your teacher.');
  await router.replace({ name: 'lesson', params: { lessonId: await tasks.begin(own) } });
}

const comeIn = () =>
  attempt(async () => {
    const called = studentName.safeParse(name.value);
    if (!called.success) throw new Error(called.error.issues[0].message);
    await ownWork.comeAsGuest(liveCode.parse(typed.value), called.data);
    await session.load();
    await go();
  });

onMounted(() => code && look());
</script>

<template>
  <main class="door">
    <img src="/kite.svg" alt="" />
    <template v-if="!asked">
      <h1>A question from your teacher</h1>
      <form @submit.prevent="look">
        <input
          v-model="typed"
          class="code"
          aria-label="Code"
          placeholder="ABC 234"
          autocomplete="off"
          spellcheck="false"
          maxlength="12"
          autofocus
          required
        />
        <button>Open</button>
      </form>
    </template>
    <template v-else>
      <h1 dir="auto">{{ asked.title }}</h1>
      <form v-if="asked.isOpen" @submit.prevent="comeIn">
        <input
          v-model="name"
          aria-label="Your name"
          placeholder="Your name"
          autocomplete="nickname"
          maxlength="60"
          autofocus
          required
        />
        <button>Answer</button>
      </form>
      <p class="note">
        {{ asked.isOpen ? 'Only your teacher sees it with what you answer.' : 'This is for those your teacher knows.' }}
        <router-link :to="{ name: 'sign-in' }">I have a key of my own</router-link>
      </p>
    </template>
    <p v-if="problem" role="alert">{{ problem }}</p>
  </main>
</template>

<style scoped src="../look/door.css"></style>
<style scoped>
.code {
  font-size: 1.5rem;
  font-weight: 650;
  text-align: center;
  text-transform: uppercase;
  letter-spacing: 0.08em;
}

.note {
  color: var(--ink-soft);
}

.note a {
  display: block;
  margin-top: 1rem;
  color: var(--tail);
}
</style>
