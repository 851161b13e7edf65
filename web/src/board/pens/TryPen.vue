<script setup lang="ts">
import { InkPoints } from '@kite-trail/core/ink/points';
import { newStroke, type Stroke } from '@kite-trail/core/lesson/piece';
import { paintPieces } from '@kite-trail/core/paint/painter';
import { onBeforeUnmount, onMounted, ref } from 'vue';
import { PenInput, type WetStroke } from '../../capture/pen-input';
import { usePens } from './pens';

/** A strip to try how a pen writes. What is written here goes nowhere. */
const SIZE = { widthPx: 400, heightPx: 84 };
const DENSITY = 2;
const pens = usePens();
const canvas = ref<HTMLCanvasElement>();
const dry: Stroke[] = [];
let input: PenInput | null = null;

const strokeOf = ({ pen, samples }: WetStroke): Stroke =>
  newStroke({ id: 'tried' as never, z: 0, pen, points: InkPoints.from(samples) });

function paint() {
  const surface = canvas.value?.getContext('2d');
  if (!surface) return;
  surface.setTransform(1, 0, 0, 1, 0, 0);
  surface.clearRect(0, 0, SIZE.widthPx * DENSITY, SIZE.heightPx * DENSITY);
  const strokes = [...dry, ...(input?.wet ?? []).map(strokeOf)];
  paintPieces(surface, strokes, '#fffdf7', { leftPx: 0, topPx: 0, pxPerPt: DENSITY });
}

onMounted(() => {
  input = new PenInput(canvas.value!, {
    tool: () => ({ kind: 'write', pen: { ...pens.heldPen } }),
    palmErases: () => false,
    lead: () => null,
    hardness: () => pens.pressHardness,
    toPage: (clientX, clientY) => {
      const box = canvas.value!.getBoundingClientRect();
      return {
        xPt: ((clientX - box.left) / box.width) * SIZE.widthPx,
        yPt: ((clientY - box.top) / box.height) * SIZE.heightPx,
      };
    },
    wetChanged: paint,
    penTouched: () => (pens.hasPen = true),
    written: (wet) => dry.push(strokeOf(wet)),
    erase: () => {},
    eraseEnded: () => {},
  });
});
onBeforeUnmount(() => input?.dispose());

function clear() {
  dry.length = 0;
  paint();
}
</script>

<template>
  <div class="try on-paper">
    <canvas
      ref="canvas"
      class="strip"
      role="img"
      aria-label="Try the pen here"
      :width="SIZE.widthPx * DENSITY"
      :height="SIZE.heightPx * DENSITY"
    ></canvas>
    <button class="clear" @click="clear">Wipe</button>
  </div>
</template>

<style scoped>
.try {
  position: relative;
}

.strip {
  width: 100%;
  aspect-ratio: 400 / 84;
  touch-action: none;
  cursor: crosshair;
  background: var(--paper);
  border: 1px dashed var(--line);
  border-radius: var(--radius);
}

.clear {
  position: absolute;
  top: 4px;
  right: 4px;
  min-height: 32px;
  padding: 0 10px;
  color: var(--ink-soft);
  cursor: pointer;
  background: transparent;
  border: 0;
}
</style>
