<script setup lang="ts">
import type { ClassPage } from '@kite-trail/core/contract/watch';
import { onMounted, ref } from 'vue';
import { clockText, dayText, spokenTime } from '../../look/time';
import { ask } from '../opening/ask';
import { keptPlaces, shareSeen } from '../opening/kept-place';
import WatchProblem from '../opening/WatchProblem.vue';

/** All that is shared with a class, in the order in which it is taught. How far somebody came is known to this device alone. */
const { token } = defineProps<{ token: string }>();
type Shared = ClassPage['lessons'][number];

const page = ref<ClassPage | null>(null);
const problem = ref('');
const places = keptPlaces();

onMounted(load);

async function load() {
  problem.value = '';
  try {
    page.value = (await (await ask(`/api/class-pages/${token}`)).json()) as ClassPage;
    document.title = page.value.name;
  } catch (error) {
    problem.value = (error as Error).message;
  }
}

const placeOf = (one: Shared) => places[one.token];
/** Never watched here, or shared again since. */
const isNew = (one: Shared) => placeOf(one) === undefined || Date.parse(one.sharedAt) > placeOf(one).seenMs;
const seen = (one: Shared) => (isNew(one) ? 0 : shareSeen(placeOf(one)));

function stateOf(one: Shared): string {
  if (isNew(one)) return placeOf(one) ? 'New version' : 'New';
  return seen(one) === 1 ? 'Watched' : `Watched up to ${clockText(placeOf(one).atSamples)}`;
}
</script>

<template>
  <watch-problem v-if="problem" @again="load">{{ problem }}</watch-problem>
  <main v-else-if="page" class="class-page">
    <h1 dir="auto">
      <svg class="pennant" viewBox="0 0 24 24" aria-hidden="true">
        <path d="M4 3v18M4 4l17 5-17 5z" :style="{ fill: `var(--class-${page.color})`, stroke: 'var(--ink-soft)' }" />
      </svg>
      {{ page.name }}
    </h1>
    <p v-if="page.lessons.length === 0" class="none">Nothing has been shared with this class yet.</p>
    <ol class="lessons">
      <li v-for="one in page.lessons" :key="one.token">
        <a :href="`/w/${one.token}`" class="lesson" :class="{ new: isNew(one) }">
          <span class="title" dir="auto">{{ one.title }}</span>
          <span class="facts">
            <span class="state">{{ stateOf(one) }}</span>
            <span :aria-label="spokenTime(one.lengthSamples)">{{ clockText(one.lengthSamples) }}</span>
            <span>{{ dayText(one.sharedAt) }}</span>
            <span v-if="one.isLocked">with a passcode</span>
          </span>
          <span class="way" aria-hidden="true"><span :style="{ width: `${seen(one) * 100}%` }"></span></span>
        </a>
      </li>
    </ol>
  </main>
</template>

<style scoped>
.class-page {
  max-width: 44rem;
  padding: 1.5rem 1rem 4rem;
  margin: 0 auto;
}

h1 {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  font-size: 1.6rem;
}

.pennant {
  flex: none;
  width: 30px;
  stroke-width: 1.6;
}

.none {
  color: var(--ink-soft);
}

.lessons {
  display: grid;
  gap: 0.75rem;
  padding: 0;
  list-style: none;
}

.lesson {
  display: grid;
  gap: 0.3rem;
  padding: 0.9rem 1.1rem 1rem;
  color: inherit;
  text-decoration: none;
  background: var(--paper);
  border-radius: 14px;
  box-shadow: var(--shadow);
}

.title {
  font-size: 1.15rem;
  font-weight: 650;
  overflow-wrap: anywhere;
}

.facts {
  display: flex;
  flex-wrap: wrap;
  gap: 0 1rem;
  color: var(--ink-soft);
}

.new .state {
  padding: 0 0.6rem;
  font-weight: 650;
  color: var(--ink);
  background: var(--straw-pale);
  border-radius: 6px;
}

/* How much of its trail has been watched. */
.way {
  height: 6px;
  margin-top: 0.3rem;
  overflow: hidden;
  background: var(--track);
  border-radius: 3px;
}

.way span {
  display: block;
  height: 100%;
  background: var(--tail);
}
</style>
