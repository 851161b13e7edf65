<script setup lang="ts">
import type { OwnTask } from '@kite-trail/core/contract/task';
import { NButton } from 'naive-ui';
import { computed } from 'vue';
import { momentText } from '../look/time';
import { pictureUrl } from '../server/api';
import { dueText, pointsText } from './due';

/** A task, with how it stands and the one thing to do next. */
const { own } = defineProps<{ own: OwnTask }>();
const emit = defineEmits<{ begin: [] }>();

const due = computed(() => dueText(own.task));
const feedback = computed(() => own.reply?.feedback ?? null);
const points = computed(() => feedback.value && pointsText(feedback.value.points, own.task?.criteria ?? []));
const stands = computed(() => {
  const { reply } = own;
  if (!reply) return '';
  if (reply.handedAt === null) return 'Begun, not handed in yet';
  const handed = `Handed in ${momentText(reply.handedAt)}${reply.isLate ? ', late' : ''}`;
  return reply.isChanged ? `${handed}. You have changed it since.` : handed;
});
</script>

<template>
  <article class="card">
    <img
      v-if="own.reply"
      :src="pictureUrl({ id: own.reply.lesson, pictureVersion: own.reply.pictureVersion })"
      alt=""
    />
    <div class="told">
      <h3 dir="auto">{{ own.title }}</h3>
      <p v-if="own.task?.question" class="question" dir="auto">{{ own.task.question }}</p>
      <p v-if="due" class="due">{{ due }}</p>
      <p v-if="stands" class="stands">{{ stands }}</p>
      <p v-if="points" class="stands">{{ points }}</p>
    </div>
    <div class="do">
      <router-link
        v-if="feedback"
        v-slot="{ navigate }"
        :to="{ name: 'feedback', params: { handIn: feedback.handIn } }"
        custom
      >
        <n-button :type="feedback.isSeen ? 'default' : 'primary'" size="large" @click="navigate">{{
          feedback.watch ? 'Hear and read it' : 'Read it'
        }}</n-button>
      </router-link>
      <n-button
        v-if="own.reply || !own.task?.isClosed"
        :type="own.reply ? 'default' : 'primary'"
        size="large"
        @click="emit('begin')"
      >
        {{ own.reply ? 'Go on' : 'Begin' }}
      </n-button>
    </div>
  </article>
</template>

<style scoped>
.card {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 0.9rem;
  align-items: start;
  height: 100%;
  padding: 1rem;
  background: var(--paper);
  border-radius: 14px;
  box-shadow: var(--shadow);
}

img {
  width: 108px;
  border: 1px solid var(--line);
  border-radius: 6px;
}

.told {
  grid-column: 2;
  min-width: 0;
}

.card:not(:has(img)) .told,
.card:not(:has(img)) .do {
  grid-column: 1 / -1;
}

h3 {
  margin: 0 0 0.3rem;
  font-size: 1.15rem;
}

.told p {
  margin: 0 0 0.3rem;
}

.question {
  display: -webkit-box;
  overflow: hidden;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 3;
}

.due {
  font-weight: 600;
}

.stands {
  color: var(--ink-soft);
}

.do {
  display: flex;
  flex-wrap: wrap;
  grid-column: 1 / -1;
  gap: 0.6rem;
  justify-content: flex-end;
}
</style>
