<script setup lang="ts">
import type { LessonSummary } from '@kite-trail/core/contract/lesson';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { IconFileTypePdf, IconPencil, IconPlayerPlay, IconPlus } from '@tabler/icons-vue';
import { NAutoComplete, NButton, NInput, NSkeleton } from 'naive-ui';
import { computed, onBeforeUnmount, onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { useDroppedFiles } from '../bring-in/dropped-files';
import LessonCard from './LessonCard.vue';
import { api } from '../server/api';
import OutboxStatus from '../set-aside/OutboxStatus.vue';
import { useOutbox } from '../app/outbox';
import { useSession } from '../app/session';
import { leaveFiles } from '../bring-in/waiting-files';
import ProblemText from '../controls/ProblemText.vue';
import DialogCard from '../controls/DialogCard.vue';

const session = useSession();
const outbox = useOutbox();
const router = useRouter();
const lessons = ref<LessonSummary[] | null>(null);
const problem = ref('');
const making = ref(false);
const title = ref('');
const className = ref('');
const picker = ref<HTMLInputElement>();

const classes = computed(() => {
  const groups = new Map<string, LessonSummary[]>();
  for (const lesson of lessons.value ?? []) {
    groups.set(lesson.className, [...(groups.get(lesson.className) ?? []), lesson]);
  }
  return [...groups].sort(([a], [b]) => (a === '' ? 1 : b === '' ? -1 : a.localeCompare(b)));
});
const classNames = computed(() => classes.value.map(([name]) => name).filter((name) => name !== ''));

onMounted(async () => {
  await load();
  // What this device still owes is sent from here, too.
  await outbox.openIfUsed();
});

async function load() {
  problem.value = '';
  try {
    lessons.value = await api.lessons();
  } catch (error) {
    problem.value = (error as Error).message;
  }
}

async function make() {
  problem.value = '';
  try {
    const lesson = await api.makeLesson(title.value.trim() || 'New lesson', className.value);
    await router.push({ name: 'lesson', params: { lessonId: lesson.id } });
  } catch (error) {
    problem.value = (error as Error).message;
  }
}

/** Files that come onto Home make a lesson of their own, named after the first of them. */
async function makeFrom(files: readonly File[]) {
  if (files.length === 0) return;
  // Whoever is just giving it a name keeps that name.
  if (!making.value || title.value.trim() === '') title.value = files[0].name.replace(/\.[^.]+$/, '').slice(0, 120);
  leaveFiles(files);
  await make();
}

function pasted(event: ClipboardEvent) {
  if (!making.value) void makeFrom([...(event.clipboardData?.files ?? [])]);
}
window.addEventListener('paste', pasted);
onBeforeUnmount(() => window.removeEventListener('paste', pasted));

useDroppedFiles((files) => void makeFrom(files));

/** A new lesson from the pages of this one, without its recordings. */
async function copy(id: LessonId) {
  try {
    const made = await api.copyLesson(id);
    await router.push({ name: 'lesson', params: { lessonId: made.id } });
  } catch (error) {
    problem.value = (error as Error).message;
  }
}

async function signOut() {
  await session.signOut();
  await router.replace('/sign-in');
}
</script>

<template>
  <header class="bar">
    <span class="name"><img src="/kite.svg" alt="" /> <span class="word">Kite Trail</span></span>
    <outbox-status />
    <router-link v-if="session.teacher?.isKeeper" to="/teachers" class="who">Teachers</router-link>
    <router-link to="/account" class="who" :aria-label="`${session.teacher?.name}: your account`">{{
      session.teacher?.name
    }}</router-link>
    <n-button quaternary @click="signOut">Sign out</n-button>
  </header>
  <main class="home">
    <div class="head">
      <h1>Lessons</h1>
      <span class="hint">Drop a PDF or a picture here to begin with it.</span>
      <n-button type="primary" size="large" @click="making = true">
        <template #icon><icon-plus /></template>
        New lesson
      </n-button>
    </div>
    <problem-text v-if="problem">
      {{ problem }} <n-button text type="primary" @click="load">Try again</n-button>
    </problem-text>

    <div v-if="!lessons && !problem" class="grid" aria-label="Loading lessons">
      <n-skeleton v-for="n in 3" :key="n" class="waiting" />
    </div>
    <div v-if="lessons?.length === 0" class="empty">
      <p class="lead">Write, talk, send.</p>
      <p>What you write and say is recorded together, and can be tidied up before anybody sees it.</p>
      <div class="ways">
        <n-button size="large" type="primary" @click="make">
          <template #icon><icon-pencil /></template>Begin on a blank page
        </n-button>
        <n-button size="large" @click="picker?.click()">
          <template #icon><icon-file-type-pdf /></template>Begin with a PDF or picture
        </n-button>
        <n-button size="large" tag="a" href="/w/example" target="_blank">
          <template #icon><icon-player-play /></template>Watch a finished example
        </n-button>
      </div>
      <input
        ref="picker"
        class="visually-hidden"
        type="file"
        multiple
        accept="application/pdf,image/*"
        tabindex="-1"
        aria-label="A PDF or pictures"
        @change="makeFrom([...(picker?.files ?? [])])"
      />
    </div>

    <section v-for="[name, members] in classes" :key="name">
      <h2>{{ name || 'Without a class' }}</h2>
      <ul class="grid">
        <li v-for="lesson in members" :key="lesson.id">
          <lesson-card :lesson="lesson" @copy="copy(lesson.id)" />
        </li>
      </ul>
    </section>
  </main>

  <dialog-card v-model:show="making" title="New lesson" style="max-width: 28rem">
    <form class="form" @submit.prevent="make">
      <label>
        Name
        <n-input
          v-model:value="title"
          placeholder="What do you explain?"
          :input-props="{ 'aria-label': 'Name' }"
          autofocus
        />
      </label>
      <label>
        Class
        <n-auto-complete
          v-model:value="className"
          :options="classNames"
          :get-show="() => true"
          placeholder="Who is it for? (may stay empty)"
          :input-props="{ 'aria-label': 'Class' }"
        />
      </label>
      <n-button type="primary" attr-type="submit" size="large">Make the lesson</n-button>
    </form>
  </dialog-card>
</template>

<style scoped>
.bar {
  display: flex;
  gap: 1rem;
  align-items: center;
  padding: 0.75rem 1.5rem;
}

.hint {
  margin-left: auto;
  color: var(--ink-soft);
}

.name {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  margin-right: auto;
  font-size: 1.2rem;
  font-weight: 700;
}

.name img {
  width: 32px;
}

.who {
  display: inline-flex;
  align-items: center;
  min-height: 44px;
  padding: 0 0.25rem;
  color: var(--ink-soft);
  text-decoration: none;
}

.who:hover {
  color: var(--ink);
  text-decoration: underline;
}

.home {
  max-width: 74rem;
  padding: 0.5rem 1.5rem 4rem;
  margin: 0 auto;
}

.head {
  display: flex;
  flex-wrap: wrap;
  gap: 0 1.2rem;
  align-items: center;
}

h1 {
  font-size: 2rem;
}

h2 {
  margin: 1.75rem 0 0.75rem;
  font-size: 1.1rem;
  color: var(--ink-soft);
}

.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(17rem, 1fr));
  gap: 1.5rem;
  padding: 0;
  margin: 0;
  list-style: none;
}

.waiting {
  height: 13rem;
  border-radius: var(--radius);
}

.empty {
  padding: 4rem 1rem;
  text-align: center;
  color: var(--ink-soft);
}

.lead {
  margin: 0;
  font-size: 1.6rem;
  font-weight: 650;
  color: var(--ink);
}

.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  justify-content: center;
  margin-top: 2rem;
}

/* On a phone the hint has a row of its own, under what is done most. */
@media (max-width: 640px) {
  .bar {
    flex-wrap: wrap;
    gap: 0 0.25rem;
    padding: 0.5rem 0.5rem 0.5rem 1rem;
  }

  .word {
    display: none;
  }

  .home {
    padding-inline: 1rem;
  }

  .head h1 {
    margin-right: auto;
  }

  .hint {
    order: 1;
    width: 100%;
    margin: 0 0 0.5rem;
  }
}

.form {
  display: grid;
  gap: 1.1rem;
}

.form label {
  display: grid;
  gap: 0.35rem;
}
</style>
