<script setup lang="ts">
import { NButton, NCheckbox } from 'naive-ui';
import { useDesk } from '../../lesson/desk';
import RadioField from '../../controls/RadioField.vue';
import { ERASER_SIZES, usePens } from './pens';

/** What the eraser takes, and how large it is. */
const emit = defineEmits<{ done: [] }>();
const TAKES = [
  { value: 'strokes', label: 'Whole strokes' },
  { value: 'parts', label: 'Only what it rubs over' },
] as const;
const pens = usePens();
const desk = useDesk();

function clear() {
  desk.clearInk();
  emit('done');
}
</script>

<template>
  <section class="panel" aria-label="Eraser options">
    <radio-field v-model="pens.eraser.takes" label="What it takes" :options="TAKES" is-column />
    <div class="sizes" role="group" aria-label="Size of the eraser">
      <button
        v-for="one in ERASER_SIZES"
        :key="one.name"
        class="size"
        :aria-label="`${one.name} eraser`"
        :aria-pressed="pens.eraser.radiusPt === one.radiusPt"
        @click="pens.eraser.radiusPt = one.radiusPt"
      >
        <span class="disc" :style="{ width: `${one.radiusPt * 2}px`, height: `${one.radiusPt * 2}px` }"></span>
      </button>
    </div>
    <n-checkbox v-model:checked="pens.palmErases">A palm or fist laid on the page rubs out (panels)</n-checkbox>
    <n-button @click="clear">Erase all ink on this page</n-button>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 12px;
}

.sizes {
  display: flex;
  gap: 6px;
}

.size {
  display: grid;
  place-items: center;
  width: 52px;
  height: 52px;
  cursor: pointer;
  background: transparent;
  border: 2px solid transparent;
  border-radius: var(--radius);
}

.size[aria-pressed='true'] {
  background: var(--straw-pale);
  border-color: var(--straw);
}

.disc {
  border: 2px solid var(--ink-soft);
  border-radius: 50%;
}
</style>
