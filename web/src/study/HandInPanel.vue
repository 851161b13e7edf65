<script setup lang="ts">
import { IconCircleCheck, IconClockPause, IconSend } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed } from 'vue';
import { useOutbox } from '../app/outbox';
import ProblemText from '../controls/ProblemText.vue';
import { momentText } from '../look/time';
import { dueText } from './due';
import { useWork } from './work';

/** Handing in, and what is asked and looked at. */
const work = useWork();
const outbox = useOutbox();
const task = computed(() => work.own?.task ?? null);
const reply = computed(() => work.own?.reply ?? null);
const isHanded = computed(() => reply.value?.handedAt != null);
const due = computed(() => dueText(task.value));
const canHandIn = computed(() => !work.isOnItsWay && !work.isHandingIn && (!isHanded.value || work.isChanged));
const waits = computed(() => outbox.status.waitsFor?.for === 'network');
</script>

<template>
  <section class="hand-in" aria-label="Hand in">
    <template v-if="task">
      <p v-if="task.question" class="question" dir="auto">{{ task.question }}</p>
      <p v-if="due" class="due">{{ due }}</p>
      <table v-if="task.criteria.length > 0" class="criteria">
        <caption>
          What is looked at
        </caption>
        <tbody>
          <tr v-for="{ name, points } in task.criteria" :key="name">
            <th scope="row">{{ name }}</th>
            <td>{{ points }} {{ points === 1 ? 'point' : 'points' }}</td>
          </tr>
        </tbody>
      </table>
    </template>
    <p v-else>Once you hand it in, your teacher sees it, and may share it with the class.</p>
    <p v-if="work.isOnItsWay" class="stands" role="status">
      <icon-clock-pause :size="22" />
      {{ waits ? 'Handed in here. It is sent as soon as there is a network: you may close this page.' : 'Handing in…' }}
    </p>
    <p v-else-if="isHanded" class="stands" role="status">
      <icon-circle-check :size="22" />
      Handed in {{ momentText(reply!.handedAt!) }}{{ reply!.isLate ? ', late' : '' }}.
      {{ work.isChanged ? 'What you changed since is not handed in yet.' : '' }}
    </p>
    <n-button
      type="primary"
      size="large"
      :disabled="!canHandIn || (task?.isClosed ?? false)"
      :loading="work.isHandingIn && !waits"
      @click="work.handIn()"
    >
      <template #icon><icon-send :size="20" /></template>
      {{ isHanded ? 'Hand it in again' : 'Hand in' }}
    </n-button>
    <n-button v-if="isHanded && !work.isOnItsWay && !reply?.feedback" quaternary @click="work.takeBack()">
      Take it back
    </n-button>
    <problem-text v-if="work.problem">{{ work.problem }}</problem-text>
    <p class="note">
      You can go on and hand in again{{ task ? ' until the task closes' : '' }}. What counts is what you handed in last.
    </p>
  </section>
</template>

<style scoped>
.hand-in {
  display: grid;
  gap: 0.9rem;
  align-content: start;
}

p {
  margin: 0;
}

.question {
  font-weight: 600;
  white-space: pre-line;
}

.due {
  font-weight: 600;
}

.criteria {
  width: 100%;
  border-collapse: collapse;
}

.criteria caption {
  padding-bottom: 0.3rem;
  color: var(--ink-soft);
  text-align: start;
}

.criteria th,
.criteria td {
  padding: 0.35rem 0;
  font-weight: 400;
  text-align: start;
  border-top: 1px solid var(--line);
}

.criteria td {
  color: var(--ink-soft);
  text-align: end;
}

.stands {
  display: flex;
  gap: 0.5rem;
  padding: 0.7rem 0.9rem;
  background: var(--straw-pale);
  border-radius: var(--radius);
}

.stands svg {
  flex: none;
}

.note {
  color: var(--ink-soft);
}
</style>
