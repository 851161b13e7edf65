<script setup lang="ts">
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { computed, nextTick, ref, watch } from 'vue';
import { useRoomLight } from '../device/room-light';
import { spokenTime } from '../look/time';
import { useResizeObserver } from '@vueuse/core';
import { timeByKey } from './time-keys';
import { drawStrip, RULER_PX, type TrailLanes, type TrailPicture } from './trail-drawing';

/**
 * The trail, or a part of it, with its playhead, and with a handle at either end of what is kept or of a stretch that is
 * chosen. With lanes for chapters and captions it is an editor: dragging along the ruler scrubs, dragging below chooses.
 */
const props = defineProps<{
  picture: TrailPicture;
  playhead: number;
  ends: { from: number; to: number } | null;
  /** What lies between the ends: all that is kept, or a stretch. */
  between: 'kept' | 'stretch';
  /** The part that is seen; all of it where none is given. */
  view?: { from: number; to: number };
  lanes?: TrailLanes;
}>();
const room = useRoomLight();
const emit = defineEmits<{
  seek: [samples: number];
  scrub: [samples: number];
  ends: [ends: { from: number; to: number }];
  stretch: [ends: { from: number; to: number } | null];
  view: [view: { from: number; to: number }];
}>();

const SHORTEST_SAMPLES = secondsToSamples(0.5);
/** A stretch of words may be shorter, and what is shorter still is a touch. */
const SHORTEST_STRETCH_SAMPLES = secondsToSamples(0.05);
const TOUCH_PX = 6;
/** So far the wheel turns until the trail is e times as large. */
const WHEEL_PX_PER_E = 320;

const strip = ref<HTMLElement>();
const canvas = ref<HTMLCanvasElement>();
const length = computed(() => props.picture.trail.lengthSamples);
const seen = computed(() => props.view ?? { from: 0, to: length.value });
const partOf = (samples: number) => (samples - seen.value.from) / Math.max(1, seen.value.to - seen.value.from);
const percent = (samples: number) => `${partOf(samples) * 100}%`;
/** The nearest moment that is seen. */
const within = (samples: number) => Math.min(seen.value.to, Math.max(seen.value.from, samples));
const isSeen = (samples: number) => partOf(samples) >= -0.0001 && partOf(samples) <= 1.0001;

/** In CSS pixels. To ask the strip itself each time would have the page laid out in the middle of every edit. */
let size = { width: 0, height: 0 };
useResizeObserver(
  strip,
  ([
    {
      contentRect: { width, height },
    },
  ]) => {
    size = { width: Math.round(width), height: Math.round(height) };
    draw();
  },
);
watch([() => props.picture, () => props.lanes, seen, room.color], () => void nextTick(draw));
void document.fonts.ready.then(draw);

function draw() {
  const { width, height } = size;
  if (!canvas.value || width === 0 || height === 0) return;
  const density = window.devicePixelRatio || 1;
  const [widthPx, heightPx] = [Math.round(width * density), Math.round(height * density)];
  if (canvas.value.width !== widthPx || canvas.value.height !== heightPx) {
    canvas.value.width = widthPx;
    canvas.value.height = heightPx;
  }
  const surface = canvas.value.getContext('2d')!;
  surface.setTransform(density, 0, 0, density, 0, 0);
  const { from: fromSamples, to: toSamples } = seen.value;
  drawStrip(surface, props.picture, props.lanes, {
    fromSamples,
    toSamples,
    width,
    top: 0,
    height,
    color: room.color.value,
  });
}

function samplesAt({ clientX }: { clientX: number }): number {
  const box = strip.value!.getBoundingClientRect();
  const along = Math.min(1, Math.max(0, (clientX - box.left) / box.width));
  return Math.round(seen.value.from + along * (seen.value.to - seen.value.from));
}

/** Pointers that are down on the strip: one seeks, scrubs or chooses; two move and enlarge it. */
const down = new Map<number, PointerEvent>();
let began: { event: PointerEvent; samples: number; does: 'scrub' | 'choose' | 'touch' } | null = null;

function pressed(event: PointerEvent) {
  if (event.button !== 0) return;
  strip.value!.setPointerCapture(event.pointerId);
  down.set(event.pointerId, event);
  if (down.size > 1) return void (began = null);
  const isOnRuler = event.clientY - strip.value!.getBoundingClientRect().top < RULER_PX;
  const does = !props.lanes || isOnRuler ? 'scrub' : 'touch';
  began = { event, samples: samplesAt(event), does };
  if (does === 'scrub') along(began.samples);
}

function movedBy(event: PointerEvent) {
  const before = down.get(event.pointerId);
  if (!before) return;
  if (down.size === 2) return pinched(event, before);
  if (!began) return;
  const at = samplesAt(event);
  if (began.does === 'scrub') return along(at);
  if (Math.abs(event.clientX - began.event.clientX) >= TOUCH_PX) began.does = 'choose';
  if (began.does !== 'choose') return;
  const [from, to] = [Math.min(at, began.samples), Math.max(at, began.samples)];
  emit('stretch', { from, to: Math.max(to, from + SHORTEST_STRETCH_SAMPLES) });
}

function along(samples: number) {
  if (props.lanes) emit('scrub', samples);
  else emit('seek', samples);
}

function released(event: PointerEvent) {
  down.delete(event.pointerId);
  if (began?.does === 'touch' && event.type === 'pointerup') {
    const { ends, between } = props;
    const isInside = ends && between === 'stretch' && began.samples >= ends.from && began.samples <= ends.to;
    if (!isInside) emit('stretch', null);
    emit('seek', began.samples);
  }
  began = null;
}

/** Two fingers keep what lies beneath them. */
function pinched(event: PointerEvent, before: PointerEvent) {
  const other = [...down.values()].find(({ pointerId }) => pointerId !== event.pointerId)!;
  const apart = (one: PointerEvent) => Math.max(20, Math.abs(one.clientX - other.clientX));
  const held = samplesAt(before);
  down.set(event.pointerId, event);
  lookAt(apart(before) / apart(event), held, event.clientX);
}

/** Looks at so many times as much of the trail, with a moment of it at a place of the screen. */
function lookAt(times: number, samples: number, clientX: number) {
  const box = strip.value!.getBoundingClientRect();
  const width = (seen.value.to - seen.value.from) * times;
  const from = samples - ((clientX - box.left) / box.width) * width;
  emit('view', { from, to: from + width });
}

/** The wheel moves along the trail; with Ctrl it enlarges. */
function wheeled(event: WheelEvent) {
  if (!props.view) return;
  event.preventDefault();
  if (event.ctrlKey) return lookAt(Math.exp(event.deltaY / WHEEL_PX_PER_E), samplesAt(event), event.clientX);
  const by = ((event.deltaX + event.deltaY) / strip.value!.clientWidth) * (seen.value.to - seen.value.from);
  emit('view', { from: seen.value.from + by, to: seen.value.to + by });
}

function moveEnd(end: 'from' | 'to', samples: number) {
  const ends = { ...props.ends! };
  const shortest = props.lanes && props.between === 'stretch' ? SHORTEST_STRETCH_SAMPLES : SHORTEST_SAMPLES;
  if (end === 'from') ends.from = Math.min(Math.max(0, samples), ends.to - shortest);
  else ends.to = Math.max(Math.min(length.value, samples), ends.from + shortest);
  emit('ends', ends);
  emit('seek', ends[end]);
}

function dragEnd(end: 'from' | 'to', event: PointerEvent) {
  const handle = event.currentTarget as HTMLElement;
  if (event.type === 'pointerdown') handle.setPointerCapture(event.pointerId);
  if (handle.hasPointerCapture(event.pointerId)) moveEnd(end, samplesAt(event));
}

function byKey(event: KeyboardEvent, from: number, go: (samples: number) => void) {
  const to = timeByKey(event, from, length.value);
  if (to === null) return;
  go(to);
  event.preventDefault();
}

const HANDLES = {
  kept: [
    { end: 'from', label: 'Start of what is kept' },
    { end: 'to', label: 'End of what is kept' },
  ],
  stretch: [
    { end: 'from', label: 'Start of the stretch' },
    { end: 'to', label: 'End of the stretch' },
  ],
} as const;
</script>

<template>
  <div
    ref="strip"
    class="strip"
    @pointerdown="pressed"
    @pointermove="movedBy"
    @pointerup="released"
    @pointercancel="released"
    @wheel="wheeled"
  >
    <canvas ref="canvas"></canvas>
    <template v-if="ends">
      <template v-if="between === 'kept'">
        <span class="outside" :style="{ left: 0, width: percent(within(ends.from)) }"></span>
        <span class="outside" :style="{ left: percent(within(ends.to)), right: 0 }"></span>
      </template>
      <span
        v-else
        class="chosen"
        :style="{ left: percent(within(ends.from)), right: `calc(100% - ${percent(within(ends.to))})` }"
      ></span>
      <span
        v-for="{ end, label } in HANDLES[between]"
        v-show="isSeen(ends[end])"
        :key="end"
        class="handle"
        :class="end"
        role="slider"
        tabindex="0"
        :aria-label="label"
        :aria-valuemin="0"
        :aria-valuemax="length"
        :aria-valuenow="ends[end]"
        :aria-valuetext="spokenTime(ends[end])"
        :style="{ left: percent(ends[end]) }"
        @pointerdown.stop="dragEnd(end, $event)"
        @pointermove.stop="dragEnd(end, $event)"
        @keydown="byKey($event, ends[end], (samples) => moveEnd(end, samples))"
      ></span>
    </template>
    <span
      v-show="isSeen(playhead)"
      class="playhead"
      role="slider"
      tabindex="0"
      aria-label="Playhead"
      :aria-valuemin="0"
      :aria-valuemax="length"
      :aria-valuenow="Math.round(playhead)"
      :aria-valuetext="spokenTime(playhead)"
      :style="{ left: percent(playhead) }"
      @keydown="byKey($event, playhead, along)"
    ></span>
  </div>
</template>

<style scoped>
.strip {
  position: relative;
  height: 100%;
  touch-action: none;
  cursor: pointer;
}

canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}

.outside {
  position: absolute;
  top: 0;
  bottom: 0;
  background: color-mix(in srgb, var(--sail) 78%, transparent);
}

.chosen {
  position: absolute;
  top: 0;
  bottom: 0;
  background: rgb(233 196 106 / 38%);
}

/* It goes to wherever the strip is touched; what lies beneath it can be touched, too. */
.playhead {
  position: absolute;
  top: -8px;
  bottom: -3px;
  width: 25px;
  margin-left: -12.5px;
  pointer-events: none;
}

.playhead::before,
.playhead::after {
  position: absolute;
  left: 50%;
  content: '';
  background: var(--ink);
  transform: translateX(-50%);
}

.playhead::before {
  top: 0;
  width: 15px;
  height: 15px;
  border-radius: 50%;
}

.playhead::after {
  top: 3px;
  bottom: 0;
  width: 3px;
  border-radius: 2px;
}

.handle {
  position: absolute;
  top: -2px;
  bottom: -2px;
  width: 30px;
  margin-left: -15px;
  touch-action: none;
  cursor: ew-resize;
}

.handle::before {
  position: absolute;
  top: 0;
  bottom: 0;
  left: 9px;
  width: 12px;
  content: '';
  background: var(--straw);
  border: 1.5px solid var(--straw-deep);
  border-radius: 5px;
}

.handle.from::before {
  left: 3px;
}

.handle.to::before {
  left: 15px;
}
</style>
