<script setup lang="ts">
import { stepAt } from '@kite-trail/core/trail/visits';
import { useResizeObserver } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { useRoomLight } from '../../device/room-light';
import { clockText } from '../../look/time';
import { drawStrip, type TrailPicture } from '../../trail/trail-drawing';
import { reached, stretchOf, type Counted } from './insight';

/** How often each moment was heard, over the trail itself; below it, where students stopped, went back and slowed. */
const props = defineProps<{ picture: TrailPicture; lengthSamples: number; counted: Counted }>();
const emit = defineEmits<{ seek: [samples: number] }>();

const HEARD_PX = 96;
const TRAIL_PX = 76;
const ROW_PX = 22;
const ROWS = [
  { key: 'wentBack', label: 'Went back to it', color: 'tail' },
  { key: 'slowed', label: 'Heard it slower', color: 'straw-deep' },
  { key: 'stopped', label: 'Stopped there', color: 'kite' },
] as const;
const HEIGHT_PX = HEARD_PX + TRAIL_PX + ROWS.length * ROW_PX;
const LEAST_DOT_PX = 3;
const MOST_DOT_PX = 9;

const canvas = ref<HTMLCanvasElement>();
const room = useRoomLight();
/** The step a pointer is at. */
const step = ref<number | null>(null);

const told = computed(() => {
  const { sums, visits } = props.counted;
  if (step.value === null) return '';
  const { fromSamples, toSamples } = stretchOf(props.lengthSamples, step.value);
  const counts = ROWS.flatMap(({ key, label }) =>
    sums[key][step.value!] > 0 ? [`${label.toLowerCase()}: ${sums[key][step.value!]}`] : [],
  );
  const came = `${reached(sums)[step.value]} of ${visits} came here`;
  const heard = `heard ${sums.heard[step.value]} times`;
  return `${clockText(fromSamples)} to ${clockText(toSamples)}: ${[came, heard, ...counts].join(', ')}`;
});

function draw() {
  const element = canvas.value;
  if (!element || element.clientWidth === 0) return;
  const density = window.devicePixelRatio || 1;
  const width = element.clientWidth;
  element.width = Math.round(width * density);
  element.height = Math.round(HEIGHT_PX * density);
  const surface = element.getContext('2d')!;
  surface.scale(density, density);
  const { color } = room;
  drawHeard(surface, width);
  const area = {
    fromSamples: 0,
    toSamples: props.lengthSamples,
    width,
    top: HEARD_PX,
    height: TRAIL_PX,
    color: color.value,
  };
  drawStrip(surface, props.picture, undefined, area);
  ROWS.forEach(({ key, color: name }, row) => {
    const middle = HEARD_PX + TRAIL_PX + (row + 0.5) * ROW_PX;
    surface.fillStyle = color.value('line');
    surface.fillRect(0, Math.round(middle), width, 1);
    drawDots(surface, props.counted.sums[key], { width, middle, color: color.value(name) });
  });
}

/** A hill: as high as a moment was heard often. A line says how many came so far. */
function drawHeard(surface: CanvasRenderingContext2D, width: number) {
  const { heard } = props.counted.sums;
  const came = reached(props.counted.sums);
  const most = Math.max(1, ...heard, ...came);
  const y = (count: number) => HEARD_PX - 4 - (count / most) * (HEARD_PX - 12);
  surface.fillStyle = room.color.value('straw-pale');
  surface.strokeStyle = room.color.value('straw');
  const hill = new Path2D();
  hill.moveTo(0, HEARD_PX - 4);
  heard.forEach((count, i) => {
    hill.lineTo((i / heard.length) * width, y(count));
    hill.lineTo(((i + 1) / heard.length) * width, y(count));
  });
  hill.lineTo(width, HEARD_PX - 4);
  surface.fill(hill);
  surface.stroke(hill);
  surface.strokeStyle = room.color.value('ink');
  surface.lineWidth = 2;
  surface.beginPath();
  came.forEach((count, i) => {
    surface.lineTo((i / came.length) * width, y(count));
    surface.lineTo(((i + 1) / came.length) * width, y(count));
  });
  surface.stroke();
}

function drawDots(
  surface: CanvasRenderingContext2D,
  counts: readonly number[],
  { width, middle, color }: { width: number; middle: number; color: string },
) {
  const most = Math.max(1, ...counts);
  surface.fillStyle = color;
  counts.forEach((count, i) => {
    if (count === 0) return;
    const radius = LEAST_DOT_PX + (MOST_DOT_PX - LEAST_DOT_PX) * Math.sqrt(count / most);
    surface.beginPath();
    surface.arc(((i + 0.5) / counts.length) * width, middle, radius, 0, 2 * Math.PI);
    surface.fill();
  });
}

const momentAt = (event: PointerEvent | MouseEvent) => {
  const { left, width } = canvas.value!.getBoundingClientRect();
  return Math.min(props.lengthSamples, Math.max(0, ((event.clientX - left) / width) * props.lengthSamples));
};

useResizeObserver(canvas, draw);
watch(() => [props.picture, props.counted, room.color.value], draw);
</script>

<template>
  <figure>
    <div class="labels" aria-hidden="true">
      <span class="heard">Heard<br /><b>Came so far</b></span>
      <span class="trail">The trail</span>
      <span v-for="one in ROWS" :key="one.key" class="row">{{ one.label }}</span>
    </div>
    <canvas
      ref="canvas"
      role="img"
      aria-label="How often each moment was heard, gone back to, slowed, and stopped at"
      :style="{ height: `${HEIGHT_PX}px` }"
      @pointermove="step = stepAt(lengthSamples, momentAt($event))"
      @pointerleave="step = null"
      @click="emit('seek', momentAt($event))"
    ></canvas>
    <figcaption>{{ told || 'Point at a moment to read its numbers; touch it to go there.' }}</figcaption>
  </figure>
</template>

<style scoped>
figure {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 0 0.8rem;
  margin: 0;
}

canvas {
  width: 100%;
  min-width: 0;
  cursor: pointer;
}

.labels {
  display: flex;
  flex-direction: column;
  font-size: 0.85rem;
  color: var(--ink-soft);
  text-align: end;
}

.heard {
  height: 96px;
}

.heard b {
  color: var(--ink);
}

.trail {
  height: 76px;
}

.row {
  height: 22px;
  line-height: 22px;
  white-space: nowrap;
}

figcaption {
  grid-column: 2;
  min-height: 1.6rem;
  padding-top: 0.3rem;
  font-variant-numeric: tabular-nums;
}

@media (max-width: 640px) {
  .labels {
    display: none;
  }

  figcaption,
  canvas {
    grid-column: 1 / -1;
  }
}
</style>
