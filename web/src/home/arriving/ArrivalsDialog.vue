<script setup lang="ts">
import { programmeLength } from '@kite-trail/core/trail/programme';
import { NButton, NCheckbox } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import DialogCard from '../../controls/DialogCard.vue';
import ProblemText from '../../controls/ProblemText.vue';
import WorkProgress from '../../controls/WorkProgress.vue';
import { clockText } from '../../look/time';
import { useArrivals, type Arriving } from './arrivals';

/** The lessons of an archive: which of them can be brought in, and how far that has come. */
const arrivals = useArrivals();
const stage = computed(() => arrivals.stage);
const chosen = ref<ReadonlySet<Arriving>>(new Set());

// Lessons that are here already, and damaged ones, are chosen by whoever wants them.
watch(
  stage,
  (now) => {
    if (now?.is !== 'found') return;
    chosen.value = new Set(now.lessons.filter(({ isHere, lost }) => isHere === 'no' && lost.length === 0));
  },
  { immediate: true },
);

function choose(one: Arriving, isChosen: boolean) {
  const now = new Set(chosen.value);
  if (isChosen) now.add(one);
  else now.delete(one);
  chosen.value = now;
}

const lengthOf = ({ lesson }: Arriving) => {
  const samples = programmeLength(lesson.edition.programme);
  const pages = lesson.pages.length === 1 ? '1 page' : `${lesson.pages.length} pages`;
  return samples === 0 ? pages : clockText(samples);
};
const HERE: Record<Arriving['isHere'], string> = {
  no: '',
  yes: 'here already; it would be a copy',
  'in the bin': 'in your bin; it would be a copy',
};
const counted = (n: number) => (n === 1 ? '1 lesson' : `${n} lessons`);

/** What is on its way goes on; else there is nothing left to see. */
function hide() {
  if (stage.value?.is === 'coming' || stage.value?.is === 'looking') arrivals.isShown = false;
  else arrivals.close();
}
</script>

<template>
  <dialog-card
    v-if="stage"
    :show="arrivals.isShown"
    :title="stage.is === 'here' ? 'Brought in' : 'Bring lessons in'"
    style="max-width: 36rem"
    @update:show="hide"
  >
    <p class="file" dir="auto">{{ arrivals.fileName }}</p>
    <p v-if="arrivals.isAnyLeft" role="status">One archive comes at a time. Bring in what else you chose after it.</p>
    <template v-if="stage.is === 'looking'">
      <work-progress label="Looking through it" :done="stage.done" />
      <p v-if="arrivals.waitsFor" class="note" role="status">{{ arrivals.waitsFor }}</p>
    </template>
    <problem-text v-else-if="stage.is === 'refused'">{{ stage.why }} Nothing was changed.</problem-text>

    <template v-else-if="stage.is === 'found'">
      <p v-if="stage.lessons.length + stage.unread.length === 0">There is no lesson in this archive.</p>
      <p v-if="stage.isCutOff" class="damaged">
        The end of this file is missing: copy or download it again. What is left of it can be brought in all the same.
      </p>
      <ul class="list">
        <li v-for="one in stage.lessons" :key="one.lesson.id">
          <n-checkbox size="large" :checked="chosen.has(one)" @update:checked="choose(one, $event)">
            <span dir="auto">{{ one.lesson.title }}</span>
            <span class="soft">{{ [lengthOf(one), HERE[one.isHere]].filter(Boolean).join(' · ') }}</span>
          </n-checkbox>
          <template v-if="one.lost.length > 0">
            <p class="note damaged">Parts of it are damaged, missing or too large, and would not come along:</p>
            <ul class="lost">
              <li v-for="what in one.lost" :key="what" dir="auto">{{ what }}</li>
            </ul>
          </template>
        </li>
        <li v-for="one in stage.unread" :key="one.title">
          <span dir="auto">{{ one.title }}</span>
          <p class="note damaged">It cannot be read. {{ one.why }}</p>
        </li>
      </ul>
    </template>

    <template v-else-if="stage.is === 'coming'">
      <work-progress :label="stage.title" :done="stage.done" />
      <p class="note" role="status">
        {{ arrivals.waitsFor ?? 'It goes on when this is closed, as long as this window is open.' }}
      </p>
    </template>

    <template v-else>
      <p v-if="stage.titles.length > 0">
        {{ stage.titles.length === 1 ? '1 lesson is' : `${stage.titles.length} lessons are` }} here now.
      </p>
      <problem-text v-for="one in stage.failed" :key="one.title">{{ one.title }}: {{ one.why }}</problem-text>
    </template>

    <template #footer>
      <n-button v-if="stage.is === 'looking' || stage.is === 'coming'" @click="arrivals.close()">Stop</n-button>
      <n-button v-if="stage.is === 'coming'" type="primary" @click="hide">Go on meanwhile</n-button>
      <template v-if="stage.is === 'found'">
        <n-button @click="arrivals.close()">Cancel</n-button>
        <n-button type="primary" :disabled="chosen.size === 0" @click="arrivals.bring([...chosen])">
          {{ chosen.size === 0 ? 'Bring in' : `Bring in ${counted(chosen.size)}` }}
        </n-button>
      </template>
      <n-button v-if="stage.is === 'here' || stage.is === 'refused'" type="primary" @click="arrivals.close()">
        Close
      </n-button>
    </template>
  </dialog-card>
</template>

<style scoped>
.file {
  margin: 0 0 0.75rem;
  overflow-wrap: anywhere;
  color: var(--ink-soft);
}

.list {
  display: grid;
  gap: 0.6rem;
  max-height: 50vh;
  padding: 0;
  margin: 0;
  overflow: auto;
  list-style: none;
}

.soft {
  margin-left: 0.4rem;
  color: var(--ink-soft);
  font-variant-numeric: tabular-nums;
}

.note {
  margin: 0.15rem 0 0 1.6rem;
  color: var(--ink-soft);
}

.damaged {
  color: var(--kite-deep);
}

.lost {
  margin: 0.15rem 0 0 1.6rem;
  color: var(--ink-soft);
}
</style>
