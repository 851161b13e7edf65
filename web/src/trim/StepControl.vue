<script setup lang="ts">
import { IconChevronLeft, IconChevronRight } from '@tabler/icons-vue';
import { STEPS_BY, type StepBy } from './trimming';

/** Goes along the trail by frames, strokes, pauses, pages or chapters. */
const by = defineModel<StepBy>({ required: true });
const emit = defineEmits<{ step: [direction: 1 | -1] }>();
</script>

<template>
  <div class="step" role="group" aria-label="Step along the trail">
    <button :aria-label="`Previous ${by}`" @click="emit('step', -1)"><icon-chevron-left :size="22" /></button>
    <select v-model="by" aria-label="Step by">
      <option v-for="one in STEPS_BY" :key="one" :value="one">{{ one }}</option>
    </select>
    <button :aria-label="`Next ${by}`" @click="emit('step', 1)"><icon-chevron-right :size="22" /></button>
  </div>
</template>

<style scoped>
.step {
  display: flex;
  align-items: center;
  border: 1px solid var(--line);
  border-radius: var(--radius);
}

button,
select {
  min-height: 44px;
  cursor: pointer;
  background: transparent;
  border: 0;
}

button {
  display: grid;
  place-items: center;
  width: 40px;
}

select {
  font: inherit;
  color: inherit;
  text-align: center;
  appearance: none;
}
</style>
