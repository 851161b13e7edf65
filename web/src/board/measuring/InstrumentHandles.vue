<script setup lang="ts">
import { moveBy, movedTo } from '@kite-trail/core/lesson/matrix';
import { frameMatrix, type Frame } from '@kite-trail/core/lesson/frame';
import { movedPiece } from '@kite-trail/core/lesson/moving';
import type { InstrumentPiece } from '@kite-trail/core/lesson/piece';
import { carried, sized, turned, turnedBy } from '@kite-trail/core/measuring/handling';
import { HINGE_RISE_PT, protractorRadius, readingOf } from '@kite-trail/core/measuring/instrument';
import type { Placement } from '@kite-trail/core/paint/surface';
import { IconArrowsHorizontal, IconFlipHorizontal, IconRotate, IconX } from '@tabler/icons-vue';
import { computed } from 'vue';
import type { PlacePt } from '../../capture/pen-input';
import { bodyPath, sidesPx } from './instrument-body';
import { useMeasuring } from './measuring';
import { INSTRUMENT_NAMES } from './instrument-names';

/** What a measuring tool is held by: its body moves it, two fingers turn it; grips turn it and make it longer. */
const props = defineProps<{
  piece: InstrumentPiece;
  placement: Placement;
  toPage: (clientX: number, clientY: number) => PlacePt;
  /** Whether the tool in hand works through it, as an eraser does. */
  isThrough: boolean;
}>();

/** What is narrower than twice this has its bar above it, off its edges. */
const BAR_PX = 30;
/** A grip stands beside the end it is for. */
const BESIDE_PX = 26;
const KEY_STEP_PT = 2;
const KEY_FAR_PT = 24;
const KEY_TURN_RAD = Math.PI / 180;
const KEY_FAR_TURN_RAD = Math.PI / 12;
const KEY_SIZE = 1.02;

const measuring = useMeasuring();
const name = computed(() => INSTRUMENT_NAMES[props.piece.content.instrument]);
const reading = computed(() =>
  measuring.reading?.id === props.piece.id ? measuring.reading.text : readingOf(props.piece.content, props.piece.frame),
);
/** Compasses are round: there is nothing to turn. */
const grips = computed(() => {
  const isCompasses = props.piece.content.instrument === 'compasses';
  const own = name.value.toLowerCase();
  const turn = {
    kind: 'turn',
    side: -1,
    name: `Turn the ${own}`,
    title: 'Drag to turn; keys [ and ]',
    icon: IconRotate,
  } as const;
  const size = {
    kind: 'size',
    side: 1,
    name: isCompasses ? 'Open the compasses' : `Make the ${own} longer`,
    title: 'Drag; keys + and -',
    icon: IconArrowsHorizontal,
  } as const;
  return isCompasses ? [size] : [turn, size];
});
const px = computed(() => sidesPx(props.piece, props.placement.pxPerPt));

const place = computed(() => {
  const { xPt, yPt, turnRad } = props.piece.frame;
  const { leftPx, topPx, pxPerPt } = props.placement;
  const { right, bottom } = px.value;
  return {
    left: `${leftPx + xPt * pxPerPt - right}px`,
    top: `${topPx + yPt * pxPerPt - bottom}px`,
    width: `${2 * right}px`,
    height: `${2 * bottom}px`,
    transform: `rotate(${turnRad}rad)`,
  };
});

/** The body within its edges, as an SVG path about the middle of the frame. */
const body = computed(() => bodyPath(props.piece, props.placement.pxPerPt));

const isUpsideDown = computed(() => Math.cos(props.piece.frame.turnRad) < -1e-9);
/** In the body where there is room, and never upside down. */
const barStyle = computed(() => {
  const { right, bottom, strip, pxPerPt } = px.value;
  const mirror = props.piece.frame.mirrored ? -1 : 1;
  const at = {
    ruler: [0, bottom > BAR_PX ? 0 : -bottom - BAR_PX],
    'set-square': [(-right / 3) * mirror, bottom / 3],
    protractor: [0, bottom - strip - protractorRadius(props.piece.frame) * pxPerPt * 0.4],
    compasses: [0, -HINGE_RISE_PT * pxPerPt - 40],
  }[props.piece.content.instrument];
  return {
    left: `calc(50% + ${at[0]}px)`,
    top: `calc(50% + ${at[1]}px)`,
    transform: `translate(-50%, -50%) rotate(${isUpsideDown.value ? 180 : 0}deg)`,
  };
});
const sideOf = (side: -1 | 1) => ({
  left: `calc(50% + ${side * (px.value.right + BESIDE_PX) * (props.piece.frame.mirrored ? -1 : 1)}px)`,
  top: `calc(50% + ${px.value.down}px)`,
});

const reframe = (frame: Frame) => measuring.put({ ...props.piece, frame });
const turnTo = (turnRad: number) => reframe(turned(props.piece.frame, turnRad));
const sizeTo = (widthPt: number) => reframe(sized(props.piece.content.instrument, props.piece.frame, widthPt));

/** Fingers, or a pen, that hold the body, with where they came down. */
const fingers = new Map<number, { began: PlacePt; at: PlacePt }>();
let heldFrom = props.piece;

function hold(event: PointerEvent) {
  if (event.button !== 0) return;
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  const at = props.toPage(event.clientX, event.clientY);
  fingers.set(event.pointerId, { began: at, at });
  holdAnew();
}

/** With each finger more or less, what they do begins from where it lies now. */
function holdAnew() {
  heldFrom = props.piece;
  for (const finger of fingers.values()) finger.began = finger.at;
}

function carry(event: PointerEvent) {
  const finger = fingers.get(event.pointerId);
  if (!finger) return;
  finger.at = props.toPage(event.clientX, event.clientY);
  const two = [...fingers.values()].slice(0, 2);
  const moved = movedPiece(
    heldFrom,
    carried(
      two.map(({ began }) => began),
      two.map(({ at }) => at),
    ),
  );
  reframe(two.length === 2 ? turned(moved.frame, moved.frame.turnRad) : moved.frame);
}

function letGo(event: PointerEvent) {
  fingers.delete(event.pointerId);
  holdAnew();
}

/** A grip is followed from where it was grasped: what matters is how far it has come. */
let grasped: { kind: 'turn' | 'size'; began: PlacePt; frame: Frame } | null = null;

function grasp(kind: 'turn' | 'size', event: PointerEvent) {
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  grasped = { kind, began: props.toPage(event.clientX, event.clientY), frame: props.piece.frame };
}

function pull(event: PointerEvent) {
  if (!grasped) return;
  const { began, frame } = grasped;
  const at = props.toPage(event.clientX, event.clientY);
  if (grasped.kind === 'turn') {
    const direction = ({ xPt, yPt }: PlacePt) => Math.atan2(yPt - frame.yPt, xPt - frame.xPt);
    return turnTo(frame.turnRad + direction(at) - direction(began));
  }
  const [cos, sin] = [Math.cos(frame.turnRad), Math.sin(frame.turnRad)];
  const along = ((at.xPt - began.xPt) * cos + (at.yPt - began.yPt) * sin) * (frame.mirrored ? -1 : 1);
  // A protractor grows to both sides of its middle.
  const share = props.piece.content.instrument === 'protractor' ? 2 : 1;
  reframe(sized(props.piece.content.instrument, frame, frame.widthPt + along * share));
}

function mirror() {
  const { frame } = props.piece;
  reframe({ ...frame, mirrored: !frame.mirrored });
}

function onKey(event: KeyboardEvent) {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const step = event.shiftKey ? KEY_FAR_PT : KEY_STEP_PT;
  const { frame } = props.piece;
  const by = (xPt: number, yPt: number) => reframe(movedPiece(props.piece, moveBy(xPt, yPt)).frame);
  const keys: Record<string, () => void> = {
    ArrowLeft: () => by(-step, 0),
    ArrowRight: () => by(step, 0),
    ArrowUp: () => by(0, -step),
    ArrowDown: () => by(0, step),
    '[': () => reframe(turnedBy(frame, -KEY_TURN_RAD)),
    ']': () => reframe(turnedBy(frame, KEY_TURN_RAD)),
    '{': () => reframe(turnedBy(frame, -KEY_FAR_TURN_RAD)),
    '}': () => reframe(turnedBy(frame, KEY_FAR_TURN_RAD)),
    '+': () => sizeTo(frame.widthPt * KEY_SIZE),
    '-': () => sizeTo(frame.widthPt / KEY_SIZE),
    Delete: () => measuring.putAway(props.piece.id),
    Backspace: () => measuring.putAway(props.piece.id),
  };
  if (!keys[event.key]) return;
  event.preventDefault();
  event.stopPropagation();
  keys[event.key]();
}

/** For whoever cannot see where it lies. */
const whereText = computed(() => {
  const { xPt, yPt } = movedTo(frameMatrix(props.piece.frame), { xPt: 0, yPt: 0 });
  return `${reading.value}, ${Math.round(xPt)} points from the left, ${Math.round(yPt)} from the top`;
});
</script>

<template>
  <div
    class="instrument"
    :class="{ through: isThrough }"
    :style="place"
    tabindex="0"
    role="group"
    :aria-label="name"
    :aria-description="whereText"
    data-fingers="own"
    @keydown="onKey"
  >
    <svg class="body" aria-hidden="true" width="1" height="1">
      <path
        :d="body"
        :transform="piece.frame.mirrored ? 'scale(-1, 1)' : undefined"
        @pointerdown="hold"
        @pointermove="carry"
        @pointerup="letGo"
        @pointercancel="letGo"
      />
    </svg>
    <div class="bar" :style="barStyle">
      <output class="reading" :aria-label="`${name} reads`">{{ reading }}</output>
      <button v-if="piece.content.instrument === 'set-square'" class="small" aria-label="Turn over" @click="mirror">
        <icon-flip-horizontal :size="20" />
      </button>
      <button class="small" :aria-label="`Put the ${name.toLowerCase()} away`" @click="measuring.putAway(piece.id)">
        <icon-x :size="20" />
      </button>
    </div>
    <button
      v-for="grip in grips"
      :key="grip.kind"
      class="grip"
      :style="sideOf(grip.side)"
      :aria-label="grip.name"
      :title="grip.title"
      @pointerdown="grasp(grip.kind, $event)"
      @pointermove="pull"
      @pointerup="grasped = null"
      @pointercancel="grasped = null"
    >
      <component :is="grip.icon" :size="20" />
    </button>
  </div>
</template>

<style scoped>
/* Only what it is held by can be touched; all between goes to the page. */
.instrument {
  position: absolute;
  line-height: normal;
  pointer-events: none;
}

.bar,
.grip {
  pointer-events: auto;
}

.body {
  position: absolute;
  top: 50%;
  left: 50%;
  overflow: visible;
  pointer-events: none;
}

.body path {
  touch-action: none;
  pointer-events: all;
  cursor: grab;
  fill: transparent;
}

.instrument:focus-visible {
  outline: none;
}

.instrument:focus-visible .body path {
  stroke: var(--tail);
  stroke-width: 2;
}

.bar {
  position: absolute;
  display: flex;
  align-items: center;
  height: 44px;
  white-space: nowrap;
  background: var(--veil);
  border-radius: 22px;
}

.reading {
  padding: 0 4px 0 14px;
  font-weight: 650;
  font-variant-numeric: tabular-nums;
  white-space: pre;
}

.small,
.grip {
  display: grid;
  place-items: center;
  width: 44px;
  height: 44px;
  padding: 0;
  cursor: pointer;
  background: transparent;
  border: 0;
  border-radius: 50%;
}

.small:hover {
  background: var(--sail-deep);
}

.grip {
  position: absolute;
  touch-action: none;
  cursor: grab;
  transform: translate(-50%, -50%);
}

/* The touched part is larger than what is seen. */
.grip::before {
  position: absolute;
  inset: 7px;
  z-index: -1;
  content: '';
  background: var(--paper);
  border: 1.5px solid var(--tail);
  border-radius: 50%;
}

.through .body path,
.through .grip {
  pointer-events: none;
}
</style>
