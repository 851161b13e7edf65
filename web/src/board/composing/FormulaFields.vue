<script setup lang="ts">
import type { Contents } from '@kite-trail/core/lesson/content';
import { usePens } from '../pens/pens';
import ColorDots from '../../controls/ColorDots.vue';

/** A formula in LaTeX, with the beginnings of what is needed most. */
const formula = defineModel<Contents['formula']>({ required: true });
const BEGINNINGS = [
  { name: 'Fraction', tex: '\\frac{a}{b}' },
  { name: 'Power', tex: 'x^{2}' },
  { name: 'Index', tex: 'x_{1}' },
  { name: 'Root', tex: '\\sqrt{x}' },
  { name: 'Sum', tex: '\\sum_{n=1}^{10}' },
  { name: 'Integral', tex: '\\int_{a}^{b}' },
  { name: 'Vector', tex: '\\vec{v}' },
  { name: 'Angle', tex: '\\alpha = 30^\\circ' },
  { name: 'Matrix', tex: '\\begin{pmatrix} a & b \\\\ c & d \\end{pmatrix}' },
];
const pens = usePens();

const add = (tex: string) => (formula.value.tex = `${formula.value.tex} ${tex}`.trim());
</script>

<template>
  <label for="formula-tex">Formula in LaTeX</label>
  <textarea
    id="formula-tex"
    v-model="formula.tex"
    class="tex"
    rows="3"
    maxlength="2000"
    spellcheck="false"
    autofocus
    placeholder="\frac{s}{t} = v"
  ></textarea>
  <div class="beginnings" role="group" aria-label="Beginnings">
    <button v-for="one in BEGINNINGS" :key="one.name" type="button" class="chip" @click="add(one.tex)">
      {{ one.name }}
    </button>
  </div>
  <color-dots v-model="formula.color" label="Colour" :colors="pens.palette" />
</template>

<style scoped>
.tex {
  padding: 8px 10px;
  font-family: ui-monospace, monospace;
  font-size: 1rem;
  color: inherit;
  resize: vertical;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: var(--radius);
}

.beginnings {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}

.chip {
  min-height: 36px;
  padding: 0 12px;
  cursor: pointer;
  background: var(--sail-deep);
  border: 0;
  border-radius: 18px;
}
</style>
