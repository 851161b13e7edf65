<script setup lang="ts">
import { InkPoints } from '@kite-trail/core/ink/points';
import { strokesTouched } from '@kite-trail/core/ink/hit';
import { exactOf, heldStillMs, straightened } from '@kite-trail/core/ink/straighten';
import { rubbed } from '@kite-trail/core/ink/rub';
import { pieceBounds } from '@kite-trail/core/lesson/bounds';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import { grown, type Page } from '@kite-trail/core/lesson/page';
import { isPassing } from '@kite-trail/core/lesson/mark';
import { newStroke, type Stroke } from '@kite-trail/core/lesson/piece';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { paintPassingLayer, paintPieces } from '@kite-trail/core/paint/painter';
import type { Placement } from '@kite-trail/core/paint/surface';
import { scaleOf, type PlacePx } from '@kite-trail/core/paint/view';
import type { Moment } from '@kite-trail/core/trail/timeline';
import { leaveFieldsWhenPageTouched } from './page-touched';
import { useResizeObserver } from '@vueuse/core';
import { nanoid } from 'nanoid';
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { FingerInput } from '../capture/finger-input';
import { PenInput, type PlacePt, type WetStroke } from '../capture/pen-input';
import { Stage } from '../playback/stage';
import { AudienceScreen } from './audience-screen';
import type { BoardSight, BoardTool } from './board-tool';
import { handTool } from './hand-tool';
import { PassingLayer } from './passing-layer';
import { shapeTool, textTool } from './composing/placing-tools';
import { pointingTool } from './pointing-tool';
import InstrumentHandles from './measuring/InstrumentHandles.vue';
import SelectionHandles from './selection/SelectionHandles.vue';
import TextEntry from './composing/TextEntry.vue';
import { useAudience } from './audience';
import { useDesk } from '../lesson/desk';
import { useBringIn } from '../bring-in/bring-in';
import { useFiles } from '../lesson/files';
import { useComposing } from './composing/composing';
import { useMeasuring } from './measuring/measuring';
import { useSelection } from './selection/selection';
import { painted } from '../device/painted';
import { usePens } from './pens/pens';
import { usePages } from '../pages/pages';
import { useRecordingNow } from '../lesson/recording-now';
import { useView } from './view';

/** The page: what lies on it, and above it a low-latency layer for the ink that is still wet. */
const props = defineProps<{
  moment: Moment;
  writable: boolean;
  /** What a hand does on it in the place of writing. */
  tool?: ((on: BoardSight) => BoardTool) | null;
  /** Strokes that are lit up. */
  lit?: readonly Stroke[];
}>();
/** How far around its tip the eraser of whole strokes reaches. */
const ERASER_RADIUS_PT = 5;
/** Held still so long before it is lifted, a pen asks for exact lines. */
const HELD_STILL_MS = 500;
/** So near to an edge a pen is led by it. */
const EDGE_REACH_PX = 14;
/** So far the wheel turns until the page is e times as large. */
const WHEEL_PX_PER_E = 320;

const desk = useDesk();
const pens = usePens();
const recording = useRecordingNow();
const pages = usePages();
const files = useFiles();
const selection = useSelection();
const composing = useComposing();
const bringIn = useBringIn();
const measuring = useMeasuring();
const audience = useAudience();
let screen: AudienceScreen | null = null;
const view = useView();
/** Where the page lies, in CSS pixels, for what lies above the canvases. */
const placement = ref<Placement>({ leftPx: 0, topPx: 0, pxPerPt: 1 });
const handles = ref<InstanceType<typeof SelectionHandles>>();
const passing = new PassingLayer(wetChanged);
const sight: BoardSight = { toPage, pxPerPt: () => placement.value.pxPerPt, changed: wetChanged };
const tools: Partial<Record<typeof pens.held, BoardTool>> = {
  hold: handTool(sight, () => (isDragAwaited = true)),
  shape: shapeTool(sight),
  text: textTool(sight),
  point: pointingTool(sight, passing.show, passing.hold),
};
const given = computed(() => props.tool?.(sight));
const toolNow = () => given.value ?? (props.writable ? tools[pens.held] : undefined);
let isDragAwaited = false;
let active: { tool: BoardTool; pointerId: number } | null = null;
const frame = ref<HTMLElement>();
const settled = ref<HTMLCanvasElement>();
const wet = ref<HTMLCanvasElement>();
let stage: Stage | null = null;
let wetSurface: CanvasRenderingContext2D | null = null;
let input: PenInput | null = null;
let fingers: FingerInput | null = null;

leaveFieldsWhenPageTouched();
onMounted(() => {
  stage = new Stage(settled.value!, () => files.images);
  wetSurface = wet.value!.getContext('2d', { desynchronized: true })!;
  fingers = new FingerInput(frame.value!, {
    use: fingerUse,
    isElsewhere: ({ target }) => (target as Element).closest('[data-fingers="own"]') !== null,
    began: () => {
      input?.dropTouches();
      active?.tool.up(new PointerEvent('pointercancel'));
      active = null;
    },
    moved: ({ factor, from, to }) => view.move({ factor, from: inFrame(from), to: inFrame(to) }),
  });
  input = new PenInput(wet.value!, {
    tool: () => (given.value ? { kind: 'other' } : pens.tool),
    hardness: () => pens.pressHardness,
    toPage,
    lead: (at) => measuring.leadFrom(at, EDGE_REACH_PX / placement.value.pxPerPt),
    wetChanged: () => {
      wetChanged();
      awaitRest();
    },
    penTouched: () => (pens.hasPen = true),
    written,
    erase,
    eraseEnded: () => desk.endGesture(),
  });
  desk.watchWet(() => input?.wet ?? []);
  fit();
});
/** Beside a pen, fingers move the page; what pens do not do, fingers do. */
function fingerUse() {
  if (input?.isPenDown) return 'nothing';
  return pens.fingersWrite || toolNow() ? 'write' : 'move';
}

onBeforeUnmount(() => {
  clearTimeout(restTimer);
  input?.dispose();
  fingers?.dispose();
});
useResizeObserver(frame, () => fit());
watch(
  () => props.moment,
  (now, before) => {
    const page = shownPage(now.scene).page;
    const was = shownPage(before.scene).page;
    const isMoved = !props.writable && now.scene.look !== before.scene.look;
    const isTurned = page.id !== was.id;
    // Another page of the same size lies where this one lay; to fit it would have the window laid out.
    if (isMoved || (isTurned && view.part !== null) || (page !== was && !sameSides(page, was))) fit();
    else {
      if (isTurned) view.lookAt(page);
      stage?.show(now);
    }
    showAudience();
  },
  // The settled layer takes the ink over in the very frame in which the wet layer lets it go.
  { flush: 'sync' },
);

watch(
  () => files.arrivals,
  () => {
    stage?.repaint();
    screen?.repaint();
  },
);

watch(
  () => audience.window,
  (opened) => {
    screen = opened && new AudienceScreen(opened, () => files.images);
    showAudience();
  },
);
watch([() => audience.resizes, () => view.look, () => view.isRecorded], showAudience);

/** The audience sees the page as the teacher looks at it, unless the teacher keeps that to themselves. */
function showAudience() {
  const isOwnLook = props.writable || view.part !== null;
  screen?.show(props.moment, isOwnLook ? (view.isRecorded ? view.look : null) : props.moment.scene.look);
  screen?.showWet(paintSeen);
}

// Looked at in another way, the page is painted anew once a frame.
watch(
  () => view.part,
  () => fit(),
);

// What is kept out of the recording lies above the page.
watch(() => measuring.hidden, wetChanged);
// On the same page, light goes out once what put it out, such as a cut, is on screen: to wait for it would hold that up.
let litPage: PageId | null = null;
watch(
  () => props.lit,
  (lit = []) => {
    const { id } = shownPage(props.moment.scene).page;
    if (lit.length === 0 && id === litPage) return void painted().then(wetChanged);
    litPage = id;
    wetChanged();
  },
);

/** A stroke with a glow around it. */
const litUp = (stroke: Stroke): Stroke => ({
  ...stroke,
  opacity: 0.75,
  pen: { kind: 'highlighter', color: '#e9a21a', widthPt: stroke.pen.widthPt + 9 },
});

const sameSides = (a: Page, b: Page) =>
  a.leftPt === b.leftPt && a.topPt === b.topPt && a.widthPt === b.widthPt && a.heightPt === b.heightPt;

function fit() {
  if (!stage || !frame.value) return;
  view.box = { widthPx: frame.value.clientWidth, heightPx: frame.value.clientHeight };
  view.lookAt(shownPage(props.moment.scene).page);
  // Whoever only watches sees what was looked at, until they look elsewhere.
  const size = stage.fit(props.moment, view.box, props.writable || view.part ? view.view : undefined);
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
  paintSeen(wetSurface, stage.placement);
  paintPieces(wetSurface, measuring.hidden, shownPage(props.moment.scene).page.paper.color, stage.placement);
  paintPieces(
    wetSurface,
    (props.lit ?? []).map(litUp),
    shownPage(props.moment.scene).page.paper.color,
    stage.placement,
  );
  const line = toolNow()?.line?.();
  if (line) paintLine(wetSurface, line, stage.placement);
  screen?.showWet(paintSeen);
}

/** What is not settled on the page, and is for all to see. */
function paintSeen(surface: CanvasRenderingContext2D, at: Placement) {
  const state = shownPage(props.moment.scene);
  const pieces = [...(input?.wet ?? []).map(strokeOf), ...(tools[pens.held]?.pieces?.() ?? [])];
  paintPieces(surface, pieces, state.page.paper.color, at);
  paintPassingLayer(surface, state, passing.at(performance.now()), at, files.images);
}

/** A dashed line, such as a loop around things. */
function paintLine(surface: CanvasRenderingContext2D, line: readonly PlacePt[], { pxPerPt, leftPx, topPx }: Placement) {
  const density = window.devicePixelRatio || 1;
  surface.setTransform(1, 0, 0, 1, leftPx, topPx);
  surface.strokeStyle = '#12776f';
  surface.lineWidth = 1.75 * density;
  surface.setLineDash([7 * density, 5 * density]);
  surface.beginPath();
  for (const { xPt, yPt } of line) surface.lineTo(xPt * pxPerPt, yPt * pxPerPt);
  surface.stroke();
  surface.setLineDash([]);
}

function strokeOf(stroke: WetStroke): Stroke {
  const points = InkPoints.from(stroke.samples);
  const staysAsDrawn = stroke.isLed || stroke.pen.kind === 'fading' || !isHeldStill(points, stroke.beganMs);
  const exact = staysAsDrawn ? null : exactOf(points);
  const own = { id: 'wet' as PieceId, z: 0, pen: stroke.pen };
  return newStroke({ ...own, points: exact ? straightened(points, exact) : points });
}

/** A pen that rests sends nothing: how long it has been still is told by the clock. */
function isHeldStill(points: InkPoints, beganMs: number): boolean {
  const sinceLastMs = performance.now() - beganMs - points.lengthMs;
  return heldStillMs(points) + sinceLastMs >= HELD_STILL_MS;
}

/** Shows what a pen that rests has drawn as it will become. */
let restTimer = 0;
function awaitRest() {
  clearTimeout(restTimer);
  if (input && input.wet.length > 0) restTimer = window.setTimeout(wetChanged, HELD_STILL_MS);
}

function written(stroke: WetStroke, points: InkPoints) {
  const piece = newStroke({ id: nanoid(12) as PieceId, z: desk.nextZ(), pen: stroke.pen, points });
  const ink = { kind: 'ink' as const, page: desk.scene!.shown, stroke: piece };
  if (isPassing(ink)) {
    desk.pass(ink, stroke.beganMs);
    return passing.show(ink, stroke.beganMs);
  }
  desk.beginGesture();
  desk.change(ink, stroke.beganMs);
  if (pages.grows) growFor(piece);
  desk.endGesture();
  if (!stroke.isLed) makeExact(piece);
}

/** What was drawn and held becomes exact, as a step of its own: undone once, it is as it was drawn. */
function makeExact(piece: Stroke) {
  if (pens.straight !== 'always' && heldStillMs(piece.points) < HELD_STILL_MS) return;
  const exact = exactOf(piece.points);
  if (!exact) return;
  const points = straightened(piece.points, exact);
  desk.change({ kind: 'alter', page: desk.scene!.shown, pieces: [{ ...piece, points }] });
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
    left.push(...parts.map((points): Stroke => ({ ...stroke, id: nanoid(12) as PieceId, points })));
  }
  if (pieceIds.length === 0) return;
  desk.change({ kind: 'lift', page, pieceIds }, atMs);
  if (left.length > 0) desk.change({ kind: 'place', page, pieces: left }, atMs);
}

/**
 * The press that took hold goes on as a drag. The handles listen to mice and fingers, which are told of a press right
 * after pointers are; by then the handles are there.
 */
function pressed(event: MouseEvent | TouchEvent) {
  if (isDragAwaited) handles.value?.dragFrom(event);
  isDragAwaited = false;
}

/** What the tool in hand does with a pointer that is down on the page. */
function toolDown(event: PointerEvent) {
  const tool = toolNow();
  if (!tool || active || event.button !== 0) return;
  if (!tool.down(event)) return;
  active = { tool, pointerId: event.pointerId };
  wet.value!.setPointerCapture(event.pointerId);
}

function toolMoved(event: PointerEvent) {
  if (event.pointerId !== active?.pointerId) return;
  const coalesced = event.getCoalescedEvents?.() ?? [];
  for (const one of coalesced.length > 0 ? coalesced : [event]) active.tool.move(one);
}

function toolUp(event: PointerEvent) {
  if (event.pointerId !== active?.pointerId) return;
  const { tool } = active;
  active = null;
  tool.up(event);
}

function dropped(event: DragEvent) {
  const files = [...(event.dataTransfer?.files ?? [])];
  if (files.length === 0 || !props.writable) return;
  event.preventDefault();
  void bringIn.bring(files, toPage(event.clientX, event.clientY));
}

// Whoever writes, or looks at another page, lets go.
watch(
  [() => pens.held, () => shownPage(props.moment.scene).page.id, () => props.writable] as const,
  ([tool, page, writable], [, pageBefore]) => {
    if (page !== pageBefore) passing.clear();
    composing.endTyping();
    if (tool !== 'hold' || !writable) selection.letGo();
  },
);

// What the teacher looks at is part of the recording.
watch(
  () => [view.look, recording.isOn && view.isRecorded] as const,
  ([look, isRecorded]) => {
    if (recording.isOn) desk.changeAside({ kind: 'look', page: desk.scene!.shown, rect: isRecorded ? look : null });
  },
);
</script>

<template>
  <div ref="frame" class="frame" @drop="dropped" @wheel.prevent="wheeled">
    <div class="page">
      <canvas ref="settled" class="settled"></canvas>
      <canvas
        ref="wet"
        class="wet"
        role="img"
        :aria-label="writable ? 'Page to write on' : 'Page'"
        :class="{
          writable: writable || given,
          picking: given,
          erasing: writable && pens.held === 'eraser',
          holding: writable && pens.held === 'hold',
          typing: writable && pens.held === 'text',
        }"
        @pointerdown="toolDown"
        @mousedown="pressed"
        @touchstart="pressed"
        @pointermove="toolMoved"
        @pointerup="toolUp"
        @pointercancel="toolUp"
      ></canvas>
      <template v-if="writable">
        <instrument-handles
          v-for="piece in measuring.lying"
          :key="piece.id"
          :piece="piece"
          :placement="placement"
          :to-page="toPage"
          :is-through="pens.held === 'eraser' || pens.held === 'point'"
        />
      </template>
      <selection-handles
        v-if="writable && selection.frame && !composing.typing && selection.doing !== 'cutting'"
        ref="handles"
        :key="[...selection.ids].join()"
        :frame="selection.frame"
        :placement="placement"
      />
      <text-entry
        v-if="composing.typing"
        :key="composing.typing.at.xPt + composing.typing.at.yPt"
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

.wet.picking {
  cursor: pointer;
}

/* A hand takes hold of what it can see. */
.wet.holding {
  cursor: grab;
}

.wet.typing {
  cursor: text;
}

.wet.erasing {
  cursor: cell;
}
</style>
