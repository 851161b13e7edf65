<script setup lang="ts">
import type { ClassTasks, TaskSummary } from '@kite-trail/core/contract/task';
import type { ClassId } from '@kite-trail/core/lesson/ids';
import { NSkeleton } from 'naive-ui';
import { onMounted, shallowRef, watch } from 'vue';
import { useAttempt } from '../controls/attempt';
import ProblemText from '../controls/ProblemText.vue';
import { clockText, momentText } from '../look/time';
import { tasksApi } from '../server/tasks';

/** The tasks of a class, and what its students made unasked. */
const { classId } = defineProps<{ classId: ClassId }>();
const all = shallowRef<ClassTasks | null>(null);
const { problem, attempt } = useAttempt();

const load = () => attempt(async () => (all.value = await tasksApi.tasks(classId)));
onMounted(load);
watch(() => classId, load);

function stands({ handedIn, students, fresh, givenBack }: TaskSummary): string {
  const told = [`${handedIn} of ${students} handed in`];
  if (fresh > 0) told.push(`${fresh} new`);
  if (givenBack > 0) told.push(`${givenBack} given back`);
  return told.join(', ');
}
</script>

<template>
  <router-link :to="{ name: 'class', params: { classId } }" class="class" dir="auto">{{ all?.className }}</router-link>
  <h1 class="heading">Tasks</h1>
  <problem-text v-if="problem">{{ problem }}</problem-text>
  <n-skeleton v-if="!all && !problem" :height="160" />
  <p v-else-if="all?.tasks.length === 0" class="none">
    No tasks yet. Open a lesson, and give it out in its last step, Share.
  </p>
  <ul v-else-if="all" class="tasks">
    <li v-for="task in all.tasks" :key="task.id">
      <router-link :to="{ name: 'task', params: { taskId: task.id } }" class="task">
        <img :src="`/api/lessons/${task.sheet}/picture`" alt="" />
        <span class="told">
          <span class="title" dir="auto">{{ task.title }}</span>
          <span class="soft">
            {{
              task.isClosed
                ? 'Closed'
                : task.dueAt
                  ? `Due ${momentText(task.dueAt)}`
                  : `Given out ${momentText(task.madeAt)}`
            }}
          </span>
          <span :class="{ fresh: task.fresh > 0 }">{{ stands(task) }}</span>
        </span>
      </router-link>
    </li>
  </ul>
  <template v-if="all?.unasked.length">
    <h2 class="second">Explained unasked</h2>
    <ul class="tasks">
      <li v-for="{ student, title, handIn } in all.unasked" :key="handIn.id">
        <router-link :to="{ name: 'lesson', params: { lessonId: handIn.lesson } }" class="task">
          <img :src="`/api/lessons/${handIn.lesson}/picture?of=${handIn.pictureVersion}`" alt="" />
          <span class="told">
            <span class="title" dir="auto">{{ title }}</span>
            <span dir="auto">{{ student.name }}</span>
            <span class="soft">{{ momentText(handIn.handedAt) }}, {{ clockText(handIn.lengthSamples) }}</span>
          </span>
        </router-link>
      </li>
    </ul>
  </template>
</template>

<style scoped>
.class {
  color: var(--tail);
}

.heading {
  margin: 0.1rem 0 1rem;
  font-size: 1.8rem;
}

.second {
  margin: 1.6rem 0 0.8rem;
  font-size: 1.2rem;
}

.none,
.soft {
  color: var(--ink-soft);
}

.tasks {
  display: grid;
  gap: 0.8rem;
  padding: 0;
  margin: 0;
  list-style: none;
}

.task {
  display: flex;
  gap: 1rem;
  align-items: center;
  padding: 0.9rem;
  color: inherit;
  text-decoration: none;
  background: var(--paper);
  border-radius: 14px;
  box-shadow: var(--shadow);
}

.task:hover .title {
  text-decoration: underline;
}

.task img {
  width: 112px;
  border: 1px solid var(--line);
  border-radius: 6px;
}

.told {
  display: grid;
  gap: 0.2rem;
}

.title {
  font-size: 1.15rem;
  font-weight: 650;
}

.fresh {
  font-weight: 600;
  color: var(--tail);
}
</style>
