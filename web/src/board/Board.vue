<script setup lang="ts">
import type { PageId } from '@kite-trail/core/lesson/ids';
import { type Stroke } from '@kite-trail/core/lesson/piece';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { paintPassingLayer, paintPieces } from '@kite-trail/core/paint/painter';
import type { Placement } from '@kite-trail/core/paint/surface';
import type { Moment } from '@kite-trail/core/trail/timeline';
import { leaveFieldsWhenPageTouched } from './page-touched';
import { useResizeObserver } from '@vueuse/core';
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { FingerInput } from '../device/finger-input';
import { isPalm, PenInput } from '../capture/pen-input';
import { Stage } from '../playback/stage';
import { useAudienceView } from './audience-view';
import { useLiveView } from './live-view';
import type { BoardSight, BoardTool } from './board-tool';
import { HELD_STILL_MS, strokeOf, useInkWriter } from './ink-writer';
import { sameSides, usePageFit } from './page-fit';
import { toolPointer } from './tool-pointer';
import { litUp, paintLine } from './wet-layer';
import { handTool } from './hand-tool';
import { PassingLayer } from './passing-layer';
import { shapeTool, textTool } from './composing/placing-tools';
import { pointingTool } from './pointing-tool';
import InstrumentHandles from './measuring/InstrumentHandles.vue';
import SelectionHandles from './selection/SelectionHandles.vue';
import TextEntry from './composing/TextEntry.vue';
import { useDesk } from '../lesson/desk';
import { useBringIn } from '../bring-in/bring-in';
import { useFiles } from '../lesson/files';
import { useComposing } from './composing/composing';
import { useMeasuring } from './measuring/measuring';
import { useSelection } from './selection/selection';
import { painted } from '../device/painted';
import { usePens } from './pens/pens';
import { useToolsHere } from './pens/tools-here';
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
/** So near to an edge a pen is led by it. */
const EDGE_REACH_PX = 14;
const desk = useDesk();
const pens = usePens();
const recording = useRecordingNow();
const files = useFiles();
const selection = useSelection();
const composing = useComposing();
const bringIn = useBringIn();
const measuring = useMeasuring();
const audience = useAudienceView(() => props, paintSeen);
const live = useLiveView(() => props, unsettled);
const view = useView();
const toolsHere = useToolsHere();
const frame = ref<HTMLElement>();
const settled = ref<HTMLCanvasElement>();
const wet = ref<HTMLCanvasElement>();
let stage: Stage | null = null;
const { placement, fit, inFrame, toPage, wheeled } = usePageFit({
  frame,
  settled,
  wet,
  stage: () => stage,
  shown: () => props,
  resized: wetChanged,
});
const handles = ref<InstanceType<typeof SelectionHandles>>();
const passing = new PassingLayer(wetChanged);
const { written, erase } = useInkWriter(passing);
const sight: BoardSight = { toPage, pxPerPt: () => placement.value.pxPerPt, changed: wetChanged };
const tools: Partial<Record<typeof pens.held, BoardTool>> = {
  hold: handTool(sight, () => pointer.awaitDrag()),
  shape: shapeTool(sight),
  text: textTool(sight),
  point: pointingTool(sight, passing.show, passing.hold),
};
const given = computed(() => props.tool?.(sight));
const toolNow = () => given.value ?? (props.writable ? tools[pens.held] : undefined);
const pointer = toolPointer(wet, toolNow, (event) => handles.value?.dragFrom(event));
let wetSurface: CanvasRenderingContext2D | null = null;
let input: PenInput | null = null;
let fingers: FingerInput | null = null;

leaveFieldsWhenPageTouched();
onMounted(() => {
  stage = new Stage(settled.value!, () => files.images);
  wetSurface = wet.value!.getContext('2d', { desynchronized: true })!;
  fingers = new FingerInput(frame.value!, {
    use: fingerUse,
    // A palm that rubs moves nothing.
    isElsewhere: (touch) =>
      (touch.target as Element).closest('[data-fingers="own"]') !== null || (pens.palmErases && isPalm(touch)),
    tapped: ({ xPx, yPx }) => props.writable && toolsHere.callTo({ xPx, yPx }),
    began: () => {
      input?.dropTouches();
      pointer.cancel();
    },
    moved: ({ factor, from, to }) => view.move({ factor, from: inFrame(from), to: inFrame(to) }),
  });
  input = new PenInput(wet.value!, {
    tool: (device) => (given.value ? { kind: 'other' } : pens.toolOf(device)),
    palmErases: () => pens.palmErases && !given.value && props.writable,
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
    audience.show();
    live.show();
  },
  // The settled layer takes the ink over in the very frame in which the wet layer lets it go.
  { flush: 'sync' },
);

watch(
  () => files.arrivals,
  () => {
    stage?.repaint();
    audience.repaint();
  },
);

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
  audience.showWet();
  live.show();
}

/** What is not settled on the page, and is for all to see. */
function paintSeen(surface: CanvasRenderingContext2D, at: Placement) {
  const state = shownPage(props.moment.scene);
  const { wet: pieces, passing: shown } = unsettled();
  paintPieces(surface, pieces, state.page.paper.color, at);
  paintPassingLayer(surface, state, shown, at, files.images);
}

function unsettled() {
  const pieces = [...(input?.wet ?? []).map(strokeOf), ...(tools[pens.held]?.pieces?.() ?? [])];
  return { wet: pieces, passing: passing.at(performance.now()) };
}

/** Shows what a pen that rests has drawn as it will become. */
let restTimer = 0;
function awaitRest() {
  clearTimeout(restTimer);
  if (input && input.wet.length > 0) restTimer = window.setTimeout(wetChanged, HELD_STILL_MS);
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
    <div class="page on-paper">
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
        @pointerdown="pointer.down"
        @mousedown="pointer.pressed"
        @touchstart="pointer.pressed"
        @pointermove="pointer.move"
        @pointerup="pointer.up"
        @pointercancel="pointer.up"
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
