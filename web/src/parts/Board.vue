<script setup lang="ts">
import { InkPoints } from '@kite-trail/core/ink/points';
import { piecesTouched } from '@kite-trail/core/ink/hit';
import type { PieceId } from '@kite-trail/core/lesson/ids';
import type { Stroke } from '@kite-trail/core/lesson/piece';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { paintStrokes } from '@kite-trail/core/paint/painter';
import type { Moment } from '@kite-trail/core/trail/timeline';
import { useResizeObserver } from './resize-observer';
import { nanoid } from 'nanoid';
import { onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { PenInput, type PlacePt, type WetStroke } from '../capture/pen-input';
import { Stage } from '../playback/stage';
import { useDesk } from '../stores/desk';
import { usePens } from '../stores/pens';
import { useRecording } from '../stores/recording';

/** The page: what lies on it, and above it a low-latency layer for the ink that is still wet. */
const props = defineProps<{ moment: Moment; writable: boolean }>();

/** How far around its tip the eraser reaches. */
const ERASER_RADIUS_PT = 5;

const desk = useDesk();
const pens = usePens();
const recording = useRecording();
const frame = ref<HTMLElement>();
const settled = ref<HTMLCanvasElement>();
const wet = ref<HTMLCanvasElement>();
let stage: Stage | null = null;
let wetSurface: CanvasRenderingContext2D | null = null;
let input: PenInput | null = null;

onMounted(() => {
  stage = new Stage(settled.value!);
  wetSurface = wet.value!.getContext('2d', { desynchronized: true })!;
  input = new PenInput(wet.value!, {
    tool: () => pens.tool,
    toPage,
    wetChanged,
    written,
    erase,
    eraseEnded: () => desk.endGesture(),
  });
  recording.watchWet(() => input?.wet ?? []);
  fit();
});
onBeforeUnmount(() => input?.dispose());
useResizeObserver(frame, fit);
watch(
  () => props.moment,
  (now, before) => {
    const page = shownPage(now.scene).page;
    const was = shownPage(before.scene).page;
    if (page.widthPt !== was.widthPt || page.heightPt !== was.heightPt) fit();
    else stage?.show(now);
  },
  // The settled layer takes the ink over in the very frame in which the wet layer lets it go.
  { flush: 'sync' },
);

function fit() {
  if (!stage || !frame.value) return;
  const { clientWidth, clientHeight } = frame.value;
  const size = stage.fit(props.moment, { width: clientWidth, height: clientHeight });
  for (const canvas of [settled.value!, wet.value!]) {
    canvas.style.width = `${size.width}px`;
    canvas.style.height = `${size.height}px`;
  }
  wet.value!.width = settled.value!.width;
  wet.value!.height = settled.value!.height;
}

function toPage(clientX: number, clientY: number): PlacePt {
  const canvas = settled.value!;
  const box = canvas.getBoundingClientRect();
  const { page } = shownPage(props.moment.scene);
  return {
    xPt: ((clientX - box.left) / box.width) * page.widthPt,
    yPt: ((clientY - box.top) / box.height) * page.heightPt,
  };
}

function wetChanged() {
  if (!wetSurface || !stage || !wet.value) return;
  wetSurface.setTransform(1, 0, 0, 1, 0, 0);
  wetSurface.clearRect(0, 0, wet.value.width, wet.value.height);
  paintStrokes(wetSurface, (input?.wet ?? []).map(strokeOf), stage.placement);
}

const strokeOf = (stroke: WetStroke): Stroke => ({
  kind: 'stroke',
  id: 'wet' as PieceId,
  z: 0,
  pen: stroke.pen,
  points: InkPoints.from(stroke.samples),
});

function written(stroke: WetStroke, points: InkPoints) {
  const piece: Stroke = { kind: 'stroke', id: nanoid(12) as PieceId, z: desk.nextZ(), pen: stroke.pen, points };
  desk.change({ kind: 'ink', page: desk.scene!.shown, stroke: piece }, stroke.beganMs);
}

function erase(from: PlacePt, to: PlacePt, atMs: number) {
  desk.beginGesture();
  const { page, pieces } = shownPage(desk.scene!);
  const touched = piecesTouched(pieces, from, to, ERASER_RADIUS_PT);
  if (touched.length === 0) return;
  desk.change({ kind: 'lift', page: page.id, pieceIds: touched.map((piece) => piece.id) }, atMs);
}
</script>

<template>
  <div ref="frame" class="frame">
    <div class="page">
      <canvas ref="settled" class="settled"></canvas>
      <canvas
        ref="wet"
        class="wet"
        role="img"
        :aria-label="writable ? 'Page to write on' : 'Page'"
        :class="{ writable, erasing: writable && pens.held === 'eraser' }"
      ></canvas>
      <slot />
    </div>
  </div>
</template>

<style scoped>
.frame {
  display: grid;
  place-items: center;
  width: 100%;
  height: 100%;
  min-height: 0;
  overflow: hidden;
}

.page {
  position: relative;
  line-height: 0;
  border-radius: 4px;
  box-shadow: var(--shadow);
}

.settled {
  border-radius: 4px;
}

.wet {
  position: absolute;
  inset: 0;
  touch-action: none;
  pointer-events: none;
}

.wet.writable {
  pointer-events: auto;
  cursor: crosshair;
}

.wet.erasing {
  cursor: cell;
}
</style>
