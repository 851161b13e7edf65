<script setup lang="ts">
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { computed, nextTick, onMounted, ref, watch } from 'vue';
import { spokenTime } from '../look/time';
import { useResizeObserver } from './resize-observer';
import { drawTrail, type TrailPicture } from './trail-drawing';

/** The trail with its playhead, and with a handle at either end of what is kept or of a stretch that is chosen. */
const props = defineProps<{
  picture: TrailPicture;
  playhead: number;
  ends: { from: number; to: number } | null;
  /** What lies between the ends: all that is kept, or a stretch. */
  between: 'kept' | 'stretch';
}>();
const emit = defineEmits<{ seek: [samples: number]; ends: [ends: { from: number; to: number }] }>();

const SHORTEST_SAMPLES = secondsToSamples(0.5);

const strip = ref<HTMLElement>();
const canvas = ref<HTMLCanvasElement>();
const length = computed(() => props.picture.trail.lengthSamples);
const percent = (samples: number) => `${length.value === 0 ? 0 : (samples / length.value) * 100}%`;

onMounted(draw);
useResizeObserver(strip, draw);
watch(
  () => [props.picture.programme, props.picture.trail, props.picture.peaks],
  () => void nextTick(draw),
);

function draw() {
  if (!canvas.value || !strip.value) return;
  const { clientWidth: width, clientHeight: height } = strip.value;
  const density = window.devicePixelRatio || 1;
  canvas.value.width = Math.round(width * density);
  canvas.value.height = Math.round(height * density);
  const surface = canvas.value.getContext('2d')!;
  surface.setTransform(density, 0, 0, density, 0, 0);
  drawTrail(surface, props.picture, { width, height });
}

function samplesAt(event: PointerEvent): number {
  const box = strip.value!.getBoundingClientRect();
  const along = Math.min(1, Math.max(0, (event.clientX - box.left) / box.width));
  return Math.round(along * length.value);
}

function seekTo(event: PointerEvent) {
  if (event.type === 'pointerdown') strip.value!.setPointerCapture(event.pointerId);
  if (event.type === 'pointerdown' || strip.value!.hasPointerCapture(event.pointerId)) emit('seek', samplesAt(event));
}

function moveEnd(end: 'from' | 'to', samples: number) {
  const ends = { ...props.ends! };
  if (end === 'from') ends.from = Math.min(Math.max(0, samples), ends.to - SHORTEST_SAMPLES);
  else ends.to = Math.max(Math.min(length.value, samples), ends.from + SHORTEST_SAMPLES);
  emit('ends', ends);
  emit('seek', ends[end]);
}

function dragEnd(end: 'from' | 'to', event: PointerEvent) {
  const handle = event.currentTarget as HTMLElement;
  if (event.type === 'pointerdown') handle.setPointerCapture(event.pointerId);
  if (handle.hasPointerCapture(event.pointerId)) moveEnd(end, samplesAt(event));
}

const STEP_SECONDS: Record<string, number> = {
  ArrowLeft: -1,
  ArrowRight: 1,
  ArrowDown: -0.1,
  ArrowUp: 0.1,
  PageDown: -10,
  PageUp: 10,
};

/** Arrow keys move by a second, up and down by a tenth, page keys by ten. */
function byKey(event: KeyboardEvent, from: number, go: (samples: number) => void) {
  const stepped = STEP_SECONDS[event.key];
  if (stepped !== undefined) go(from + secondsToSamples(stepped));
  else if (event.key === 'Home') go(0);
  else if (event.key === 'End') go(length.value);
  else return;
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
  <div ref="strip" class="strip" @pointerdown="seekTo" @pointermove="seekTo">
    <canvas ref="canvas"></canvas>
    <template v-if="ends">
      <template v-if="between === 'kept'">
        <span class="outside" :style="{ left: 0, width: percent(ends.from) }"></span>
        <span class="outside" :style="{ left: percent(ends.to), right: 0 }"></span>
      </template>
      <span v-else class="chosen" :style="{ left: percent(ends.from), width: percent(ends.to - ends.from) }"></span>
      <span
        v-for="{ end, label } in HANDLES[between]"
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
      class="playhead"
      role="slider"
      tabindex="0"
      aria-label="Playhead"
      :aria-valuemin="0"
      :aria-valuemax="length"
      :aria-valuenow="Math.round(playhead)"
      :aria-valuetext="spokenTime(playhead)"
      :style="{ left: percent(playhead) }"
      @keydown="byKey($event, playhead, (samples) => emit('seek', samples))"
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
  background: rgb(250 246 236 / 78%);
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
  border: 1.5px solid #b18b2c;
  border-radius: 5px;
}

.handle.from::before {
  left: 3px;
}

.handle.to::before {
  left: 15px;
}
</style>
