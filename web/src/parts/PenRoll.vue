<script setup lang="ts">
import { IconArrowBackUp, IconArrowForwardUp, IconEraser, IconHandGrab, IconHighlight } from '@tabler/icons-vue';
import { useDesk } from '../stores/desk';
import { INK_COLORS, PEN_WIDTHS, usePens } from '../stores/pens';

const pens = usePens();
const desk = useDesk();
</script>

<template>
  <div class="roll" role="group" aria-label="Pens">
    <button
      v-for="ink in INK_COLORS"
      :key="ink.color"
      class="loop"
      :aria-pressed="pens.held === 'pen' && pens.color === ink.color"
      :aria-label="`${ink.name} pen`"
      @click="pens.pick(ink.color)"
    >
      <span class="dot" :style="{ background: ink.color }"></span>
    </button>
    <button
      v-for="width in PEN_WIDTHS"
      :key="width.widthPt"
      class="loop third"
      :aria-pressed="pens.held === 'pen' && pens.widthPt === width.widthPt"
      :aria-label="`${width.name} width`"
      @click="pens.setWidth(width.widthPt)"
    >
      <span class="line" :style="{ height: `${width.widthPt * 1.4}px`, background: pens.color }"></span>
    </button>
    <button
      class="loop third"
      title="Highlighter"
      :aria-pressed="pens.held === 'highlighter'"
      aria-label="Highlighter"
      @click="pens.held = 'highlighter'"
    >
      <icon-highlight :size="26" stroke="1.75" />
    </button>
    <button
      class="loop third"
      title="Eraser"
      :aria-pressed="pens.held === 'eraser'"
      aria-label="Eraser"
      @click="pens.held = 'eraser'"
    >
      <icon-eraser :size="26" stroke="1.75" />
    </button>
    <button
      class="loop third"
      title="Take hold of a picture"
      :aria-pressed="pens.held === 'hold'"
      aria-label="Take hold"
      @click="pens.held = 'hold'"
    >
      <icon-hand-grab :size="26" stroke="1.75" />
    </button>
    <button class="loop" aria-label="Undo" :disabled="!desk.canUndo" @click="desk.undo()">
      <icon-arrow-back-up :size="26" stroke="1.75" />
    </button>
    <button class="loop" aria-label="Redo" :disabled="!desk.canRedo" @click="desk.redo()">
      <icon-arrow-forward-up :size="26" stroke="1.75" />
    </button>
  </div>
</template>

<style scoped>
.roll {
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  gap: 6px;
}

.loop {
  display: grid;
  grid-column: span 3;
  place-items: center;
  height: 46px;
  cursor: pointer;
  background: transparent;
  border: 2px solid transparent;
  border-radius: var(--radius);
}

.third {
  grid-column: span 2;
}

.loop:hover:not(:disabled) {
  background: var(--sail-deep);
}

.loop[aria-pressed='true'] {
  background: var(--straw-pale);
  border-color: var(--straw);
}

.loop:disabled {
  opacity: 0.35;
}

.dot {
  width: 24px;
  height: 24px;
  border-radius: 50%;
}

.line {
  width: 26px;
  border-radius: 4px;
}

@media (max-width: 640px) {
  .roll {
    grid-template-rows: repeat(2, 46px);
    grid-template-columns: none;
    grid-auto-columns: 46px;
    grid-auto-flow: column;
  }

  .loop,
  .third {
    grid-column: auto;
  }
}
</style>
