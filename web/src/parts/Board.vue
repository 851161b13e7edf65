<script setup lang="ts">
import { InkPoints } from '@kite-trail/core/ink/points';
import { strokesTouched } from '@kite-trail/core/ink/hit';
import { rubbed } from '@kite-trail/core/ink/rub';
import { pieceBounds } from '@kite-trail/core/lesson/bounds';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import { grown, type Page } from '@kite-trail/core/lesson/page';
import type { Stroke } from '@kite-trail/core/lesson/piece';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { paintStrokes } from '@kite-trail/core/paint/painter';
import type { Placement } from '@kite-trail/core/paint/surface';
import { scaleOf, type PlacePx } from '@kite-trail/core/paint/view';
import type { Moment } from '@kite-trail/core/trail/timeline';
import { useResizeObserver } from './resize-observer';
import { nanoid } from 'nanoid';
import { nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { FingerInput } from '../capture/finger-input';
import { PenInput, type PlacePt, type WetStroke } from '../capture/pen-input';
import { Stage } from '../playback/stage';
import PictureHandles from './PictureHandles.vue';
import { useDesk } from '../stores/desk';
import { useBringIn } from '../stores/bring-in';
import { useFiles } from '../stores/files';
import { useHeld } from '../stores/held';
import { usePens } from '../stores/pens';
import { usePages } from '../stores/pages';
import { useRecording } from '../stores/recording';
import { useView } from '../stores/view';

/** The page: what lies on it, and above it a low-latency layer for the ink that is still wet. */
const props = defineProps<{ moment: Moment; writable: boolean }>();

/** How far around its tip the eraser of whole strokes reaches. */
const ERASER_RADIUS_PT = 5;
/** So far the wheel turns until the page is e times as large. */
const WHEEL_PX_PER_E = 320;

const desk = useDesk();
const pens = usePens();
const recording = useRecording();
const pages = usePages();
const files = useFiles();
const held = useHeld();
const bringIn = useBringIn();
const view = useView();
/** Where the page lies, in CSS pixels, for what lies above the canvases. */
const placement = ref<Placement>({ leftPx: 0, topPx: 0, pxPerPt: 1 });
const handles = ref<InstanceType<typeof PictureHandles>>();
/** The line being drawn to cut a picture out, on the page. */
let cutLine: PlacePt[] | null = null;
const frame = ref<HTMLElement>();
const settled = ref<HTMLCanvasElement>();
const wet = ref<HTMLCanvasElement>();
let stage: Stage | null = null;
let wetSurface: CanvasRenderingContext2D | null = null;
let input: PenInput | null = null;
let fingers: FingerInput | null = null;

onMounted(() => {
  stage = new Stage(settled.value!, () => files.images);
  wetSurface = wet.value!.getContext('2d', { desynchronized: true })!;
  fingers = new FingerInput(frame.value!, {
    use: () => (input?.isPenDown ? 'nothing' : pens.fingersWrite ? 'write' : 'move'),
    began: () => input?.dropTouches(),
    moved: ({ factor, from, to }) => view.move({ factor, from: inFrame(from), to: inFrame(to) }),
  });
  input = new PenInput(wet.value!, {
    tool: () => pens.tool,
    toPage,
    wetChanged,
    penTouched: () => (pens.hasPen = true),
    written,
    erase,
    eraseEnded: () => desk.endGesture(),
  });
  recording.watchWet(() => input?.wet ?? []);
  fit();
});
onBeforeUnmount(() => {
  input?.dispose();
  fingers?.dispose();
});
useResizeObserver(frame, fit);
watch(
  () => props.moment,
  (now, before) => {
    const page = shownPage(now.scene).page;
    const was = shownPage(before.scene).page;
    if (page.id !== was.id || (page !== was && !sameSides(page, was))) fit();
    else stage?.show(now);
  },
  // The settled layer takes the ink over in the very frame in which the wet layer lets it go.
  { flush: 'sync' },
);

watch(
  () => files.arrivals,
  () => stage?.repaint(),
);

// Looked at in another way, the page is painted anew once a frame.
watch(
  () => view.part,
  () => fit(),
);

const sameSides = (a: Page, b: Page) =>
  a.leftPt === b.leftPt && a.topPt === b.topPt && a.widthPt === b.widthPt && a.heightPt === b.heightPt;

function fit() {
  if (!stage || !frame.value) return;
  view.box = { widthPx: frame.value.clientWidth, heightPx: frame.value.clientHeight };
  view.lookAt(shownPage(props.moment.scene).page);
  const size = stage.fit(props.moment, view.box, view.view);
  for (const canvas of [settled.value!, wet.value!]) {
    canvas.style.width = `${size.widthPx}px`;
    canvas.style.height = `${size.heightPx}px`;
  }
  placement.value = size.placement;
  wet.value!.width = settled.value!.width;
  wet.value!.height = settled.value!.height;
  wetChanged();
}

function inFrame({ xPx, yPx }: PlacePx): PlacePx {
  const box = frame.value!.getBoundingClientRect();
  return { xPx: xPx - box.left, yPx: yPx - box.top };
}

/** With Ctrl, which is also how browsers tell of two fingers on a touch pad, the wheel enlarges; else it moves the page. */
function wheeled(event: WheelEvent) {
  if (event.ctrlKey) {
    view.zoomBy(Math.exp(-event.deltaY / WHEEL_PX_PER_E), inFrame({ xPx: event.clientX, yPx: event.clientY }));
  } else {
    view.panBy(-event.deltaX, -event.deltaY);
  }
}

function toPage(clientX: number, clientY: number): PlacePt {
  const canvas = settled.value!;
  const box = canvas.getBoundingClientRect();
  const { leftPx, topPx, pxPerPt } = placement.value;
  return { xPt: (clientX - box.left - leftPx) / pxPerPt, yPt: (clientY - box.top - topPx) / pxPerPt };
}

function wetChanged() {
  if (!wetSurface || !stage || !wet.value) return;
  wetSurface.setTransform(1, 0, 0, 1, 0, 0);
  wetSurface.clearRect(0, 0, wet.value.width, wet.value.height);
  const { paper } = shownPage(props.moment.scene).page;
  paintStrokes(wetSurface, (input?.wet ?? []).map(strokeOf), paper.color, stage.placement);
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
  const ink = { kind: 'ink' as const, page: desk.scene!.shown, stroke: piece };
  if (stroke.pen.kind === 'fading') return desk.changeForAWhile(ink, stroke.beganMs);
  desk.beginGesture();
  desk.change(ink, stroke.beganMs);
  if (pages.grows) growFor(piece);
  desk.endGesture();
}

/** A page that is full at its foot grows, and goes on being seen as large as it was. */
function growFor(piece: Stroke) {
  const { page } = shownPage(desk.scene!);
  const { bottom } = pieceBounds(piece);
  const taller = grown(page, bottom);
  if (taller === page) return;
  const before = scaleOf(page, view.box, view.view);
  pages.alter(taller);
  view.keepScale(taller, before, bottom);
}

function erase(from: PlacePt, to: PlacePt, atMs: number) {
  desk.beginGesture();
  const { page, pieces } = shownPage(desk.scene!);
  const { takes, radiusPt } = pens.eraser;
  if (takes === 'parts') return rub(page.id, strokesTouched(pieces, from, to, radiusPt), from, to, atMs);
  const touched = strokesTouched(pieces, from, to, ERASER_RADIUS_PT);
  if (touched.length > 0) desk.change({ kind: 'lift', page: page.id, pieceIds: touched.map(({ id }) => id) }, atMs);
}

/** Takes away what the eraser has rubbed over; what is left of a stroke becomes strokes of their own. */
function rub(page: PageId, touched: readonly Stroke[], from: PlacePt, to: PlacePt, atMs: number) {
  const pieceIds: PieceId[] = [];
  const left: Stroke[] = [];
  for (const stroke of touched) {
    const parts = rubbed(stroke, from, to, pens.eraser.radiusPt);
    if (!parts) continue;
    pieceIds.push(stroke.id);
    // Ink that is fading goes whole: its parts would stay.
    if (stroke.pen.kind === 'fading') continue;
    left.push(...parts.map((points): Stroke => ({ ...stroke, id: nanoid(12) as PieceId, points })));
  }
  if (pieceIds.length === 0) return;
  desk.change({ kind: 'lift', page, pieceIds }, atMs);
  if (left.length > 0) desk.change({ kind: 'place', page, pieces: left }, atMs);
}

/** Takes hold of what lies under the pointer, and goes on to move it. */
function takeHold(event: PointerEvent) {
  if (!props.writable || pens.held !== 'hold' || event.button !== 0) return;
  if (held.doing === 'cutting' && held.picture) {
    wet.value!.setPointerCapture(event.pointerId);
    cutLine = [toPage(event.clientX, event.clientY)];
    return;
  }
  const found = held.takeAt(toPage(event.clientX, event.clientY));
  if (found && !found.locked) void nextTick(() => handles.value?.dragFrom(event));
}

function followCut(event: PointerEvent) {
  if (!cutLine || !wetSurface || !stage) return;
  cutLine.push(toPage(event.clientX, event.clientY));
  const { pxPerPt, leftPx, topPx } = stage.placement;
  wetSurface.setTransform(1, 0, 0, 1, 0, 0);
  wetSurface.clearRect(0, 0, wet.value!.width, wet.value!.height);
  wetSurface.setTransform(pxPerPt, 0, 0, pxPerPt, leftPx, topPx);
  wetSurface.strokeStyle = '#1f2a44';
  wetSurface.lineWidth = 1.5;
  wetSurface.setLineDash([6, 4]);
  wetSurface.beginPath();
  for (const { xPt, yPt } of cutLine) wetSurface.lineTo(xPt, yPt);
  wetSurface.stroke();
  wetSurface.setLineDash([]);
}

function endCut() {
  if (!cutLine) return;
  const line = cutLine;
  cutLine = null;
  wetChanged();
  held.cutOut(line);
}

function dropped(event: DragEvent) {
  const dropped = [...(event.dataTransfer?.files ?? [])];
  if (dropped.length > 0 && props.writable) void bringIn.bring(dropped, toPage(event.clientX, event.clientY));
}

// Whoever writes, or looks at another page, lets go.
watch(
  () => [pens.held, shownPage(props.moment.scene).page.id, props.writable] as const,
  ([tool, , writable]) => (tool !== 'hold' || !writable) && held.take(null),
);
</script>

<template>
  <div ref="frame" class="frame" @dragover.prevent @drop.prevent="dropped" @wheel.prevent="wheeled">
    <div class="page">
      <canvas ref="settled" class="settled"></canvas>
      <canvas
        ref="wet"
        class="wet"
        role="img"
        :aria-label="writable ? 'Page to write on' : 'Page'"
        :class="{ writable, erasing: writable && pens.held === 'eraser', holding: writable && pens.held === 'hold' }"
        @pointerdown="takeHold"
        @pointermove="followCut"
        @pointerup="endCut"
        @pointercancel="endCut"
      ></canvas>
      <picture-handles
        v-if="writable && held.picture && held.doing !== 'cutting'"
        ref="handles"
        :key="held.picture.id"
        :picture="held.picture"
        :placement="placement"
      />
      <slot />
    </div>
  </div>
</template>

<style scoped>
.frame {
  touch-action: none;
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

/* A hand takes hold of what it can see. */
.wet.holding {
  cursor: grab;
}

.wet.erasing {
  cursor: cell;
}
</style>
