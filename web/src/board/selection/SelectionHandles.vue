<script setup lang="ts">
import type { Frame } from '@kite-trail/core/lesson/frame';
import { scaleAbout, turnAbout } from '@kite-trail/core/lesson/matrix';
import type { Crop, TextPiece } from '@kite-trail/core/lesson/piece';
import type { Placement } from '@kite-trail/core/paint/surface';
import Moveable from 'moveable';
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useComposing } from '../composing/composing';
import { useSelection } from './selection';

/** The handles of what is held: move, resize, turn, or set what of a picture is cropped away. */
const props = defineProps<{ frame: Frame; placement: Placement }>();

const KEY_TURN_RAD = Math.PI / 36;
const KEY_SCALE = 1.05;
const SNAP_PX = 6;
const NAMES = {
  stroke: 'Ink',
  picture: 'Picture',
  text: 'Text',
  shape: 'Shape',
  formula: 'Formula',
  plot: 'Curves',
  instrument: 'Measuring tool',
} as const;

const selection = useSelection();
const composing = useComposing();
const box = ref<HTMLElement>();
let moveable: Moveable | null = null;
let start: Frame | null = null;
/** A text's handles at its sides do not stretch it, but break its lines. */
let wrapping: { piece: TextPiece; across: number } | null = null;
let settling: Promise<void> = Promise.resolve();

const name = computed(() => (selection.only ? NAMES[selection.only.kind] : `${selection.pieces.length} things`));
const isLine = computed(
  () => selection.only?.kind === 'shape' && ['line', 'arrow'].includes(selection.only.content.figure),
);
/** Shapes and curves may be stretched; all else keeps its proportions. Shift turns it round. */
const isStretchy = computed(() => selection.only?.kind === 'shape' || selection.only?.kind === 'plot');

const style = computed(() => {
  const { xPt, yPt, widthPt, heightPt, turnRad } = props.frame;
  const { leftPx, topPx, pxPerPt } = props.placement;
  return {
    left: `${leftPx + (xPt - widthPt / 2) * pxPerPt}px`,
    top: `${topPx + (yPt - heightPt / 2) * pxPerPt}px`,
    width: `${widthPt * pxPerPt}px`,
    height: `${heightPt * pxPerPt}px`,
    transform: `rotate(${turnRad}rad)`,
  };
});

onMounted(() => {
  // The box follows a frame later, and a text's box not at once: its size is no error to be made good.
  const sizing = { checkResizableError: false, throttleResize: 0 };
  moveable = new Moveable(box.value!.parentElement!, { target: box.value!, origin: false, ...sizing });
  arrange();
  // Keys then move it; whoever types in a field goes on typing.
  if (!document.activeElement?.closest('input, textarea, select')) box.value!.focus({ preventScroll: true });
  moveable.on('dragStart', begin);
  moveable.on('drag', ({ beforeDist: [dx, dy] }) => {
    const { pxPerPt } = props.placement;
    if (start) selection.drag(dx / pxPerPt, dy / pxPerPt, SNAP_PX / pxPerPt);
  });
  moveable.on('dragEnd', end);
  moveable.on('resizeStart', ({ inputEvent, direction: [across, down] }) => {
    wrapping = selection.only?.kind === 'text' && down === 0 ? { piece: selection.only, across } : null;
    moveable!.keepRatio = !wrapping && isStretchy.value === (inputEvent as PointerEvent).shiftKey;
    begin();
  });
  moveable.on('resize', ({ width, height, drag: { beforeDist } }) => {
    if (!start) return;
    if (wrapping) return wrapAt(width / props.placement.pxPerPt);
    const [widthPt, heightPt] = [width / props.placement.pxPerPt, height / props.placement.pxPerPt];
    selection.reframe({
      ...start,
      widthPt: Math.max(1, widthPt),
      heightPt: Math.max(1, heightPt),
      xPt: start.xPt + beforeDist[0] / props.placement.pxPerPt + (widthPt - start.widthPt) / 2,
      yPt: start.yPt + beforeDist[1] / props.placement.pxPerPt + (heightPt - start.heightPt) / 2,
    });
  });
  moveable.on('resizeEnd', end);
  moveable.on('rotateStart', begin);
  moveable.on('rotate', ({ beforeDist }) => {
    if (start) selection.reframe({ ...start, turnRad: start.turnRad + (beforeDist * Math.PI) / 180 });
  });
  moveable.on('rotateEnd', end);
  moveable.on('clip', ({ clipStyles }) => {
    const [top, right, bottom, left] = clipStyles.map((side) => parseFloat(side) / 100);
    selection.cropTo = leftOf({ top, right, bottom, left });
  });
});
onBeforeUnmount(() => {
  if (start) selection.end();
  moveable?.destroy();
});
watch([style, () => selection.isLocked, () => selection.doing], () => void nextTick(arrange));

function arrange() {
  if (!moveable || !box.value) return;
  const isFree = !selection.isLocked && selection.doing === 'moving';
  moveable.draggable = moveable.resizable = moveable.rotatable = isFree;
  moveable.renderDirections = isLine.value ? ['w', 'e'] : ['nw', 'n', 'ne', 'w', 'e', 'sw', 's', 'se'];
  const isCropping = selection.doing === 'cropping' && !selection.isLocked;
  // While it is dragged, Shift decides whether its proportions are kept.
  if (!start) moveable.keepRatio = !isCropping && !isStretchy.value;
  if (isCropping !== moveable.clippable) {
    box.value.style.clipPath = isCropping ? 'inset(0% 0% 0% 0%)' : '';
    moveable.clippable = isCropping;
    moveable.defaultClipPath = 'inset';
    moveable.clipRelative = true;
    moveable.dragWithClip = false;
  }
  moveable.updateRect();
}

function begin() {
  start = { ...props.frame };
  selection.begin();
}

function end() {
  start = null;
  // The last width is part of the same step.
  void settling.then(selection.end);
}

function wrapAt(widthPt: number) {
  const { piece, across } = wrapping!;
  settling = composing.wrap(piece, widthPt, across > 0 ? 'left' : 'right');
}

/** What is left of the picture when this share of what is shown is taken off each side. */
function leftOf(inset: Crop): Crop {
  const { crop: was, frame } = selection.picture!;
  const [left, right] = frame.mirrored ? [inset.right, inset.left] : [inset.left, inset.right];
  const [width, height] = [was.right - was.left, was.bottom - was.top];
  return {
    left: was.left + left * width,
    right: was.right - right * width,
    top: was.top + inset.top * height,
    bottom: was.bottom - inset.bottom * height,
  };
}

/** The press that took hold goes on as a drag. */
function dragFrom(event: MouseEvent | TouchEvent) {
  moveable?.dragStart(event);
}

function onKey(event: KeyboardEvent) {
  if (selection.isLocked || event.ctrlKey || event.metaKey) return;
  const { xPt, yPt } = props.frame;
  const middle = { xPt, yPt };
  const keys: Record<string, () => void> = {
    '+': () => selection.step(scaleAbout(middle, KEY_SCALE)),
    '-': () => selection.step(scaleAbout(middle, 1 / KEY_SCALE)),
    '[': () => selection.step(turnAbout(middle, -KEY_TURN_RAD)),
    ']': () => selection.step(turnAbout(middle, KEY_TURN_RAD)),
    Enter: () => selection.only && composing.open(selection.only),
    Delete: selection.lift,
    Backspace: selection.lift,
  };
  if (!keys[event.key]) return;
  event.preventDefault();
  event.stopPropagation();
  keys[event.key]();
}

defineExpose({ dragFrom });
</script>

<template>
  <div
    v-for="guide in selection.guides"
    :key="`${guide.direction} ${guide.atPt}`"
    class="guide"
    :class="guide.direction"
    :style="
      guide.direction === 'down'
        ? { left: `${placement.leftPx + guide.atPt * placement.pxPerPt}px` }
        : { top: `${placement.topPx + guide.atPt * placement.pxPerPt}px` }
    "
  ></div>
  <div
    ref="box"
    class="held"
    :class="{ locked: selection.isLocked, cropping: selection.doing === 'cropping' }"
    :style="style"
    tabindex="0"
    role="group"
    :aria-label="`${name}, held`"
    @keydown="onKey"
    @dblclick="selection.only && composing.open(selection.only)"
  ></div>
</template>

<style scoped>
.held {
  position: absolute;
  touch-action: none;
  cursor: move;
  outline: 2px solid var(--straw);
}

.locked {
  cursor: default;
  outline-style: dashed;
}

/* What stays is tinted; the clip shape ends the tint where the crop does. */
.cropping {
  background: rgb(233 196 106 / 32%);
}

.guide {
  position: absolute;
  pointer-events: none;
  background: var(--tail);
}

.guide.down {
  top: 0;
  bottom: 0;
  width: 1px;
}

.guide.across {
  right: 0;
  left: 0;
  height: 1px;
}
</style>

<style>
/* The handles in our own colours; dialogs lie above them. */
.page .moveable-control-box {
  z-index: 3;

  --moveable-color: var(--tail);
}

.page .moveable-control-box .moveable-line.moveable-clip-line {
  background: var(--tail);
}

.page .moveable-control-box .moveable-control {
  background: var(--paper);
  border-color: var(--tail);
}
</style>
