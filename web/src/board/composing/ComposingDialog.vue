<script setup lang="ts">
import type { Drawing } from '@kite-trail/core/drawing/drawing';
import type { Contents } from '@kite-trail/core/lesson/content';
import { NButton } from 'naive-ui';
import { computed, ref, shallowRef, watch } from 'vue';
import { useComposingDialog } from './composing-dialog';
import { usePens } from '../pens/pens';
import DrawingPreview from './DrawingPreview.vue';
import FormulaFields from './FormulaFields.vue';
import PlotFields from './PlotFields.vue';
import ProblemText from '../../controls/ProblemText.vue';
import DialogCard from '../../controls/DialogCard.vue';

/** Makes or changes a formula, or axes with curves, and shows at once how it will look. */
const FIRST_FORMULA_PT = 28;
const dialog = useComposingDialog();
const pens = usePens();
const formula = ref<Contents['formula'] | null>(null);
const plot = ref<Contents['plot'] | null>(null);
const drawing = shallowRef<Drawing | null>(null);
const problem = ref('');
const isOpen = computed(() => dialog.open !== null);
const color = computed(() => (formula.value ?? plot.value)?.color ?? '#1f2a44');
let newest = 0;

watch(
  () => dialog.open,
  (dialog) => {
    formula.value = plot.value = drawing.value = null;
    problem.value = '';
    const ink = pens.heldPen.kind === 'highlighter' ? '#1f2a44' : pens.heldPen.color;
    if (dialog?.kind === 'formula') {
      formula.value = structuredClone(dialog.piece?.content) ?? { tex: '', color: ink, sizePt: FIRST_FORMULA_PT };
    } else if (dialog) {
      plot.value = structuredClone(dialog.piece?.content) ?? {
        x: { from: -5, to: 5 },
        y: { from: -4, to: 4 },
        grid: true,
        color: '#1f2a44',
        curves: [{ expression: 'y = x^2 / 4', color: '#c23b1e' }],
      };
    }
  },
  { immediate: true },
);

watch([formula, plot], draw, { deep: true });

/** Only the newest state counts; what is not understood leaves the last picture as it was. */
async function draw() {
  const mine = ++newest;
  try {
    const drawn = formula.value
      ? await dialog.setFormula({ ...formula.value })
      : plot.value && (await dialog.drawPlot(JSON.parse(JSON.stringify(plot.value))));
    if (mine !== newest) return;
    drawing.value = drawn;
    problem.value = '';
  } catch (error) {
    if (mine === newest) problem.value = formula.value?.tex.trim() === '' ? '' : (error as Error).message;
  }
}

function finish() {
  if (!drawing.value || problem.value) return;
  if (formula.value) dialog.finish('formula', { ...formula.value }, drawing.value);
  else if (plot.value) dialog.finish('plot', JSON.parse(JSON.stringify(plot.value)), drawing.value);
  problem.value = dialog.problem ?? '';
}

const close = () => (dialog.open = null);
</script>

<template>
  <dialog-card
    :show="isOpen"
    class="composing-dialog"
    :title="formula ? 'Formula' : 'Axes and curves'"
    @close="close"
    @esc="close"
    @mask-click="close"
  >
    <form class="form" @submit.prevent="finish">
      <formula-fields v-if="formula" v-model="formula" />
      <plot-fields v-else-if="plot" v-model="plot" />
      <drawing-preview :drawing="drawing" :color="color" />
      <problem-text>{{ problem }}</problem-text>
      <n-button type="primary" attr-type="submit" :disabled="drawing === null || problem !== ''">
        {{ dialog.open?.piece ? 'Change it' : 'Put it on the page' }}
      </n-button>
    </form>
  </dialog-card>
</template>

<style scoped>
.form {
  display: grid;
  gap: 12px;
}
</style>

<style>
.composing-dialog {
  width: min(500px, 96vw);
}
</style>
