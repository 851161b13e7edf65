<script setup lang="ts">
import type { RecordingSummary } from '@kite-trail/core/contract/overview';
import { IconLink } from '@tabler/icons-vue';
import { NSkeleton } from 'naive-ui';
import { onMounted, ref } from 'vue';
import { useAttempt } from '../../controls/attempt';
import ProblemText from '../../controls/ProblemText.vue';
import { clockText, dayText, spokenTime } from '../../look/time';
import { api } from '../../server/api';

/** All recordings of all lessons, with what became of them. */
const recordings = ref<RecordingSummary[] | null>(null);
const { problem, attempt } = useAttempt();
onMounted(() => attempt(async () => (recordings.value = await api.recordings())));

const stateOf = ({ isBinned, isPlayed }: RecordingSummary) =>
  isBinned ? 'in the bin of its lesson' : isPlayed ? 'plays' : 'kept, not played';
</script>

<template>
  <h1 class="heading">Recordings</h1>
  <problem-text v-if="problem">{{ problem }}</problem-text>
  <n-skeleton v-if="!recordings && !problem" :height="200" />
  <p v-else-if="recordings?.length === 0" class="none">Nothing has been recorded yet.</p>
  <div v-else-if="recordings" class="scroll">
    <table class="table">
      <thead>
        <tr>
          <th scope="col">Lesson</th>
          <th scope="col">Recorded</th>
          <th scope="col" class="number">Length</th>
          <th scope="col">It</th>
          <th scope="col">Shared at</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in recordings" :key="one.id">
          <td>
            <router-link :to="`/lesson/${one.lesson}`" class="lesson" dir="auto">{{ one.title }}</router-link>
            <span v-if="one.name" class="name" dir="auto">{{ one.name }}</span>
          </td>
          <td>{{ dayText(one.startedAt) }}</td>
          <td class="number" :aria-label="spokenTime(one.lengthSamples)">{{ clockText(one.lengthSamples) }}</td>
          <td>{{ stateOf(one) }}</td>
          <td>
            <a v-for="(token, n) in one.links" :key="token" :href="`/w/${token}`" target="_blank" class="link">
              <icon-link :size="17" /> {{ one.links.length > 1 ? `link ${n + 1}` : 'its link' }}
            </a>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.heading {
  margin: 0 0 1rem;
  font-size: 1.8rem;
}

.none {
  color: var(--ink-soft);
}

.scroll {
  overflow-x: auto;
  background: var(--paper);
  border-radius: 14px;
  box-shadow: var(--shadow);
}

.table {
  width: 100%;
  border-collapse: collapse;
}

th,
td {
  padding: 0.7rem 1rem;
  text-align: left;
  border-bottom: 1px solid var(--line);
}

tr:last-child td {
  border-bottom: 0;
}

th {
  font-weight: 600;
  color: var(--ink-soft);
  white-space: nowrap;
}

.number {
  font-variant-numeric: tabular-nums;
  text-align: right;
}

.lesson {
  font-weight: 650;
  color: inherit;
}

.name {
  display: block;
  color: var(--ink-soft);
}

.link {
  display: inline-flex;
  gap: 0.25rem;
  align-items: center;
  color: var(--tail);
}
</style>
