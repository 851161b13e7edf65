<script setup lang="ts">
import { IconArrowBackUp, IconCircleCheck } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed } from 'vue';
import ProblemText from '../controls/ProblemText.vue';
import TextField from '../controls/TextField.vue';
import WorkProgress from '../controls/WorkProgress.vue';
import { momentText } from '../look/time';
import { useSharing } from '../share/sharing';
import { useMarking } from './marking';
import PhraseBank from './PhraseBank.vue';

/** Points and words, and giving it back. */
const marking = useMarking();
const sharing = useSharing();
const criteria = computed(() => marking.table?.task.criteria ?? []);
const sum = computed(() =>
  (marking.marking?.points ?? []).reduce<number>((all, one) => all + (typeof one === 'number' ? one : 0), 0),
);
const most = computed(() => criteria.value.reduce((all, { points }) => all + points, 0));
/** A phrase comes behind what is written already. */
function put(phrase: string) {
  const { marking: now } = marking;
  if (!now) return;
  now.note = [now.note.trim(), phrase].filter((one) => one !== '').join(' ');
  marking.typed();
}

const given = computed(() => marking.handIn?.givenAt ?? null);
const stands = computed(() => {
  if (!given.value) return '';
  if (marking.handIn!.isChanged) return 'You have written or spoken on it since.';
  return marking.handIn!.seenAt ? `Seen ${momentText(marking.handIn!.seenAt)}.` : 'Not seen yet.';
});
</script>

<template>
  <section class="give" aria-label="Give back">
    <template v-if="marking.marking && marking.handIn">
      <table v-if="criteria.length > 0" class="criteria">
        <tbody>
          <tr v-for="({ name, points }, n) in criteria" :key="n">
            <th scope="row">
              <label :for="`criterion-${n}`">{{ name }}</label>
            </th>
            <td>
              <input
                :id="`criterion-${n}`"
                v-model.number="marking.marking.points[n]"
                type="number"
                min="0"
                :max="points"
                class="points"
                @input="marking.typed()"
              />
              of {{ points }}
            </td>
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">Together</th>
            <td>{{ sum }} of {{ most }}</td>
          </tr>
        </tfoot>
      </table>
      <text-field v-model="marking.marking.note" label="A few words" :rows="4" :most="2000" @input="marking.typed()" />
      <phrase-bank :note="marking.marking.note" @put="put" />
      <p v-if="given" class="stands" role="status">
        <icon-circle-check :size="22" /> Given back {{ momentText(given) }}. {{ stands }}
      </p>
      <blockquote v-if="marking.handIn.answer" class="answer" dir="auto">{{ marking.handIn.answer }}</blockquote>
      <n-button type="primary" size="large" :loading="marking.isGiving" @click="marking.giveBack()">
        <template #icon><icon-arrow-back-up :size="20" /></template>
        {{ given ? 'Give it back again' : 'Give it back' }}
      </n-button>
      <work-progress v-if="sharing.progress !== null" label="Mixing what was spoken" :done="sharing.progress" />
      <p class="note">They get what you wrote and spoke on it, your points and your words.</p>
    </template>
    <problem-text v-if="marking.problem">{{ marking.problem }}</problem-text>
  </section>
</template>

<style scoped>
.give {
  display: grid;
  gap: 0.9rem;
  align-content: start;
}

p {
  margin: 0;
}

.criteria {
  width: 100%;
  border-collapse: collapse;
}

.criteria th,
.criteria td {
  padding: 0.3rem 0;
  font-weight: 400;
  text-align: start;
  border-bottom: 1px solid var(--line);
}

.criteria td {
  text-align: end;
  white-space: nowrap;
}

tfoot th,
tfoot td {
  font-weight: 650 !important;
}

.points {
  width: 4.5rem;
  min-height: 44px;
  padding: 0 0.5rem;
  font: inherit;
  color: inherit;
  text-align: end;
  background: var(--paper);
  border: 1px solid var(--field-line);
  border-radius: var(--radius);
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

.answer {
  padding: 0.6rem 0.9rem;
  margin: 0;
  white-space: pre-line;
  border-inline-start: 4px solid var(--tail);
}

.note {
  color: var(--ink-soft);
}
</style>
