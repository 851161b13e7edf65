<script setup lang="ts">
import type { Crop, Frame, Picture } from '@kite-trail/core/lesson/piece';
import type { Placement } from '@kite-trail/core/paint/surface';
import Moveable from 'moveable';
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useDesk } from '../stores/desk';
import { useHeld } from '../stores/held';

/** The handles of the picture that is held: move, resize, turn, or set what is cropped away. */
const props = defineProps<{ picture: Picture; placement: Placement }>();

const NUDGE_PT = 1;
const FAR_NUDGE_PT = 12;
const KEY_TURN_RAD = Math.PI / 36;
const KEY_SCALE = 1.05;

const desk = useDesk();
const held = useHeld();
const box = ref<HTMLElement>();
let moveable: Moveable | null = null;
let start: Frame | null = null;

const style = computed(() => {
  const { xPt, yPt, widthPt, heightPt, turnRad } = props.picture.frame;
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
  moveable = new Moveable(box.value!.parentElement!, { target: box.value!, origin: false });
  arrange();
  moveable.on('dragStart', begin);
  moveable.on('drag', ({ beforeDist: [dx, dy] }) => {
    if (start)
      held.frame({ xPt: start.xPt + dx / props.placement.pxPerPt, yPt: start.yPt + dy / props.placement.pxPerPt });
  });
  moveable.on('dragEnd', end);
  moveable.on('resizeStart', ({ inputEvent }) => {
    // In proportion, unless Shift is held.
    moveable!.keepRatio = !(inputEvent as PointerEvent).shiftKey;
    begin();
  });
  moveable.on('resize', ({ width, height, drag: { beforeDist } }) => {
    if (!start) return;
    const [widthPt, heightPt] = [width / props.placement.pxPerPt, height / props.placement.pxPerPt];
    held.frame({
      widthPt,
      heightPt,
      xPt: start.xPt + beforeDist[0] / props.placement.pxPerPt + (widthPt - start.widthPt) / 2,
      yPt: start.yPt + beforeDist[1] / props.placement.pxPerPt + (heightPt - start.heightPt) / 2,
    });
  });
  moveable.on('resizeEnd', end);
  moveable.on('rotateStart', begin);
  moveable.on('rotate', ({ beforeDist }) => {
    if (start) held.frame({ turnRad: start.turnRad + (beforeDist * Math.PI) / 180 });
  });
  moveable.on('rotateEnd', end);
  moveable.on('clip', ({ clipStyles }) => {
    const [top, right, bottom, left] = clipStyles.map((side) => parseFloat(side) / 100);
    held.cropTo = leftOf({ top, right, bottom, left });
  });
});
onBeforeUnmount(() => {
  desk.endGesture();
  moveable?.destroy();
});
watch([style, () => props.picture.locked, () => held.doing], () => void nextTick(arrange));

function arrange() {
  if (!moveable || !box.value) return;
  const isFree = !props.picture.locked && held.doing === 'moving';
  moveable.draggable = moveable.resizable = moveable.rotatable = isFree;
  moveable.keepRatio = held.doing === 'moving';
  const isCropping = held.doing === 'cropping' && !props.picture.locked;
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
  start = { ...props.picture.frame };
  desk.beginGesture();
}

function end() {
  start = null;
  desk.endGesture();
}

/** What is left of the picture when this share of what is shown is taken off each side. */
function leftOf(inset: Crop): Crop {
  const { crop: was, frame } = props.picture;
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
function dragFrom(event: PointerEvent) {
  moveable?.dragStart(event);
}

function onKey(event: KeyboardEvent) {
  if (event.key === 'Escape') return held.take(null);
  if (props.picture.locked) return;
  const { xPt, yPt, widthPt, heightPt, turnRad } = props.picture.frame;
  const step = event.shiftKey ? FAR_NUDGE_PT : NUDGE_PT;
  const keys: Record<string, () => void> = {
    ArrowLeft: () => held.frame({ xPt: xPt - step }),
    ArrowRight: () => held.frame({ xPt: xPt + step }),
    ArrowUp: () => held.frame({ yPt: yPt - step }),
    ArrowDown: () => held.frame({ yPt: yPt + step }),
    '+': () => held.frame({ widthPt: widthPt * KEY_SCALE, heightPt: heightPt * KEY_SCALE }),
    '-': () => held.frame({ widthPt: widthPt / KEY_SCALE, heightPt: heightPt / KEY_SCALE }),
    '[': () => held.frame({ turnRad: turnRad - KEY_TURN_RAD }),
    ']': () => held.frame({ turnRad: turnRad + KEY_TURN_RAD }),
    Delete: held.lift,
    Backspace: held.lift,
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
    ref="box"
    class="held"
    :class="{ locked: picture.locked, cropping: held.doing === 'cropping' }"
    :style="style"
    tabindex="0"
    role="group"
    aria-label="Picture, held"
    @keydown="onKey"
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
