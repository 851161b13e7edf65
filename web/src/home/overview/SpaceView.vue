<script setup lang="ts">
import type { Space } from '@kite-trail/core/contract/overview';
import { NButton, NSkeleton } from 'naive-ui';
import { computed, onMounted, ref } from 'vue';
import { useAttempt } from '../../controls/attempt';
import ProblemText from '../../controls/ProblemText.vue';
import { sizeText } from '../../look/size';
import { api } from '../../server/api';
import DropDialog from '../DropDialog.vue';
import { useLessons } from '../lessons';

/** How much room is taken up, by what, and what could go. */
const MOST_SHOWN = 20;

const store = useLessons();
const space = ref<Space | null>(null);
const isEmptying = ref(false);
const { problem, attempt } = useAttempt();
const measure = () => attempt(async () => (space.value = await api.space()));
onMounted(measure);

const binned = computed(() => (space.value?.lessons ?? []).filter(({ isBinned }) => isBinned));
const largest = computed(() => (space.value?.lessons ?? []).slice(0, MOST_SHOWN));
const widest = computed(() => Math.max(1, ...largest.value.map(({ bytes }) => bytes)));

async function emptyBin() {
  isEmptying.value = false;
  await store.drop(binned.value.map(({ id }) => id));
  await measure();
}
</script>

<template>
  <h1 class="heading">Space</h1>
  <problem-text v-if="problem || store.problem">{{ problem || store.problem }}</problem-text>
  <n-skeleton v-if="!space && !problem" :height="200" />
  <template v-if="space">
    <dl class="sums">
      <div>
        <dt>Your lessons</dt>
        <dd>{{ sizeText(space.ownBytes) }}</dd>
      </div>
      <div>
        <dt>All of the school</dt>
        <dd>{{ sizeText(space.schoolBytes) }}</dd>
      </div>
      <div v-if="space.freeBytes !== null">
        <dt>Room left</dt>
        <dd>{{ sizeText(space.freeBytes) }}</dd>
      </div>
      <div>
        <dt>In the bin</dt>
        <dd>{{ sizeText(space.binnedBytes) }}</dd>
      </div>
      <n-button v-if="binned.length > 0" @click="isEmptying = true">Empty the bin</n-button>
    </dl>
    <h2 class="subheading">What takes most</h2>
    <ul class="list">
      <li v-for="one in largest" :key="one.id" class="row">
        <router-link :to="`/lesson/${one.id}`" class="name" dir="auto">{{ one.title }}</router-link>
        <span class="state">{{ one.isBinned ? 'in the bin' : '' }}</span>
        <span class="bar"><span :style="{ width: `${(100 * one.bytes) / widest}%` }"></span></span>
        <span class="size">{{ sizeText(one.bytes) }}</span>
      </li>
    </ul>
    <p class="hint">A file that several lessons have counts for none of them; it goes with the last.</p>
  </template>
  <drop-dialog
    v-if="isEmptying"
    title="Empty the bin?"
    action="Delete for good"
    @close="isEmptying = false"
    @drop="emptyBin"
  >
    {{ binned.length === 1 ? '1 lesson goes' : `${binned.length} lessons go` }} for good, with recordings and links.
  </drop-dialog>
</template>

<style scoped>
.heading {
  margin: 0 0 1rem;
  font-size: 1.8rem;
}

.subheading {
  margin: 2rem 0 0.75rem;
  font-size: 1.1rem;
  color: var(--ink-soft);
}

.sums {
  display: flex;
  flex-wrap: wrap;
  gap: 1rem 3rem;
  align-items: center;
  padding: 1.2rem 1.5rem;
  margin: 0;
  background: var(--paper);
  border-radius: 14px;
  box-shadow: var(--shadow);
}

dt {
  color: var(--ink-soft);
}

dd {
  margin: 0;
  font-size: 1.5rem;
  font-weight: 650;
  font-variant-numeric: tabular-nums;
}

.list {
  padding: 0;
  margin: 0;
  list-style: none;
}

.row {
  display: grid;
  grid-template-columns: minmax(8rem, 20rem) 6rem 1fr 6rem;
  gap: 1rem;
  align-items: center;
  min-height: 44px;
  border-bottom: 1px solid var(--line);
}

.name {
  overflow: hidden;
  color: inherit;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.state,
.hint {
  color: var(--ink-soft);
}

.bar span {
  display: block;
  height: 10px;
  background: var(--tail);
  border-radius: 5px;
}

.size {
  font-variant-numeric: tabular-nums;
  text-align: right;
}

@media (max-width: 640px) {
  .row {
    grid-template-columns: 1fr auto;
  }

  .state,
  .bar {
    display: none;
  }
}
</style>
