<script setup lang="ts">
import { ALLOWED, type Allowed } from '@kite-trail/core/contract/task';
import { IconPlus, IconX } from '@tabler/icons-vue';
import { NButton, NCheckbox, NInput } from 'naive-ui';
import { computed } from 'vue';
import ActionButton from '../controls/ActionButton.vue';
import TextField from '../controls/TextField.vue';
import type { TaskDraft } from './task-draft';

/** What is said of a task. */
const draft = defineModel<TaskDraft>({ required: true });
const MOST_CRITERIA = 12;
const LABELS: Record<Allowed, string> = {
  voice: 'record their voice',
  text: 'type',
  pictures: 'bring in pictures and photographs',
};
const sum = computed(() => draft.value.criteria.reduce((all, { points }) => all + (Number(points) || 0), 0));
const allow = (what: Allowed, is: boolean) =>
  (draft.value.allows = ALLOWED.filter((one) => (one === what ? is : draft.value.allows.includes(one))));
</script>

<template>
  <div class="task">
    <text-field v-model="draft.title" label="What it is called" :most="120" />
    <text-field v-model="draft.question" label="What is asked" :rows="3" :most="2000" />
    <label class="due">
      To be handed in by
      <input v-model="draft.due" type="datetime-local" class="moment" />
    </label>
    <n-checkbox v-if="draft.due" v-model:checked="draft.takesLate"
      >What comes later is taken, and marked as late</n-checkbox
    >
    <fieldset>
      <legend>Beside writing and drawing, they may</legend>
      <n-checkbox
        v-for="one in ALLOWED"
        :key="one"
        :checked="draft.allows.includes(one)"
        @update:checked="allow(one, $event)"
      >
        {{ LABELS[one] }}
      </n-checkbox>
    </fieldset>
    <details :open="draft.criteria.length > 0">
      <summary>Points{{ sum > 0 ? `: ${sum} in all` : '' }}</summary>
      <ul class="criteria">
        <li v-for="(one, n) in draft.criteria" :key="n">
          <n-input
            v-model:value="one.name"
            size="large"
            :maxlength="60"
            :input-props="{ 'aria-label': `What is looked at, ${n + 1}` }"
          />
          <input
            v-model.number="one.points"
            type="number"
            min="1"
            max="100"
            class="points"
            :aria-label="`Points, ${n + 1}`"
          />
          <action-button name="Take it away" :icon="IconX" @click="draft.criteria.splice(n, 1)" />
        </li>
      </ul>
      <n-button v-if="draft.criteria.length < MOST_CRITERIA" @click="draft.criteria.push({ name: '', points: 5 })">
        <template #icon><icon-plus :size="18" /></template>Something that is looked at
      </n-button>
    </details>
    <n-checkbox v-model:checked="draft.isOpen">Whoever has its code may do it, under a name they write</n-checkbox>
    <details :open="draft.instruction !== '' || draft.example !== ''">
      <summary>What they may hear first</summary>
      <text-field v-model="draft.instruction" label="Watch link of what to do" :most="200" />
      <text-field v-model="draft.example" label="Watch link of an example" :most="200" />
    </details>
  </div>
</template>

<style scoped>
.task {
  display: grid;
  gap: 0.9rem;
}

.due {
  display: grid;
  gap: 0.35rem;
  justify-items: start;
}

.moment,
.points {
  min-height: 44px;
  padding: 0 0.7rem;
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--field-line);
  border-radius: var(--radius);
}

.points {
  width: 5.5rem;
}

fieldset {
  display: grid;
  gap: 0.35rem;
  padding: 0;
  margin: 0;
  border: 0;
}

legend {
  padding: 0 0 0.35rem;
}

summary {
  padding: 0.4rem 0;
  font-weight: 600;
  cursor: pointer;
}

.criteria {
  display: grid;
  gap: 0.5rem;
  padding: 0;
  margin: 0.3rem 0 0.6rem;
  list-style: none;
}

.criteria li {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 0.5rem;
  align-items: center;
}
</style>
