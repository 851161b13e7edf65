<script setup lang="ts">
import type { SchoolClass } from '@kite-trail/core/contract/class';
import { isAnswered, type Question } from '@kite-trail/core/contract/question';
import type { Insight } from '@kite-trail/core/contract/visit';
import { IconEye, IconMessageQuestion } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed, defineAsyncComponent, onMounted, ref, shallowRef } from 'vue';
import { useLesson } from '../lesson/lesson';
import { api } from '../server/api';

/** What comes back from students: how they watched, and what they ask. */
defineProps<{ classes: readonly SchoolClass[] }>();

const InsightDialog = defineAsyncComponent(() => import('./insight/InsightDialog.vue'));
const QuestionsDialog = defineAsyncComponent(() => import('./questions/QuestionsDialog.vue'));

const lesson = useLesson();
const insight = shallowRef<Insight | null>(null);
const questions = shallowRef<readonly Question[]>([]);
const open = ref<'insight' | 'questions' | null>(null);

const visits = computed(() => insight.value?.links.reduce((sum, link) => sum + link.visits, 0) ?? 0);
const waiting = computed(() => questions.value.filter((one) => !isAnswered(one)).length);

/** Where the network is gone, what is known stays. */
async function load() {
  const { id } = lesson.document!;
  insight.value = await api.insight(id).catch(() => insight.value);
  questions.value = await api.questions(id).catch(() => questions.value);
}
onMounted(load);
</script>

<template>
  <div v-if="insight" class="way">
    <h2><icon-message-question :size="22" /> From students</h2>
    <n-button size="large" @click="open = 'insight'">
      <template #icon><icon-eye /></template>
      {{ visits === 0 ? 'Not watched yet' : visits === 1 ? 'Watched once' : `Watched ${visits} times` }}
    </n-button>
    <n-button
      v-if="questions.length > 0"
      size="large"
      :type="waiting > 0 ? 'primary' : 'default'"
      @click="open = 'questions'"
    >
      {{ waiting > 0 ? `${waiting} ${waiting === 1 ? 'question waits' : 'questions wait'}` : 'Questions' }}
    </n-button>
    <insight-dialog
      v-if="open === 'insight'"
      :insight="insight"
      :classes="classes"
      @close="open = null"
      @changed="load"
    />
    <questions-dialog
      v-if="open === 'questions'"
      :questions="questions"
      :classes="classes"
      @close="open = null"
      @changed="questions = $event"
    />
  </div>
</template>
