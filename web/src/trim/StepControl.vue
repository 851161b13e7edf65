<script setup lang="ts">
import { IconChevronLeft, IconChevronRight } from '@tabler/icons-vue';
import ActionButton from '../controls/ActionButton.vue';
import SelectField from '../controls/SelectField.vue';
import { STEPS_BY, type StepBy } from './trimming';

/** Goes along the trail by frames, strokes, pauses, pages or chapters. */
const by = defineModel<StepBy>({ required: true });
const emit = defineEmits<{ step: [direction: 1 | -1] }>();
</script>

<template>
  <div class="step" role="group" aria-label="Step along the trail">
    <action-button :name="`Previous ${by}`" :icon="IconChevronLeft" @click="emit('step', -1)" />
    <select-field v-model="by" label="Step by" :options="STEPS_BY.map((value) => ({ value, label: value }))" />
    <action-button :name="`Next ${by}`" :icon="IconChevronRight" @click="emit('step', 1)" />
  </div>
</template>

<style scoped>
.step {
  display: flex;
  align-items: center;
}
</style>
