<script setup lang="ts">
import { spacedCode } from '@kite-trail/core/contract/live';
import type { TaskSummary } from '@kite-trail/core/contract/task';
import { IconQrcode } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { ref } from 'vue';
import { useAttempt } from '../controls/attempt';
import ProblemText from '../controls/ProblemText.vue';
import QrDialog from '../controls/QrDialog.vue';
import { askedUrl, tasksApi } from '../server/tasks';

/** How what is asked now is reached, to be read across a room; and its end. */
const { task } = defineProps<{ task: TaskSummary }>();
const emit = defineEmits<{ stopped: [] }>();

const { problem, attempt } = useAttempt();
const isStopping = ref(false);
const isCodeShown = ref(false);
const place = `${location.host}/student/ask`;

async function stop() {
  isStopping.value = true;
  if (await attempt(() => tasksApi.stop(task.id))) emit('stopped');
  isStopping.value = false;
}
</script>

<template>
  <div class="asked">
    <p>
      Open <strong>{{ place }}</strong> and type <strong class="code">{{ spacedCode(task.code) }}</strong>
    </p>
    <n-button size="large" @click="isCodeShown = true">
      <template #icon><icon-qrcode :size="20" /></template>QR code
    </n-button>
    <n-button type="primary" size="large" :loading="isStopping" @click="stop">Stop</n-button>
    <problem-text v-if="problem">{{ problem }}</problem-text>
    <qr-dialog v-if="isCodeShown" :address="askedUrl(task.code)" :name="task.title" @close="isCodeShown = false" />
  </div>
</template>

<style scoped>
.asked {
  display: flex;
  flex-wrap: wrap;
  gap: 0.8rem;
  align-items: center;
  padding: 0.7rem 1rem;
  margin-bottom: 1rem;
  background: var(--straw-pale);
  border-radius: var(--radius);
}

p {
  flex: 1 1 16rem;
  margin: 0;
}

.code {
  font-size: 1.5rem;
  letter-spacing: 0.06em;
}
</style>
