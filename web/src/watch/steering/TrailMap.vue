<script setup lang="ts">
import type { Watch } from '@kite-trail/core/contract/watch';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { useResizeObserver } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { useRoomLight } from '../../device/room-light';
import { spokenTime } from '../../look/time';
import { drawMarks, drawVoice } from '../../playback/trail-lanes';

/** The lesson as a map: the voice as a ribbon, ink in its colours, pages and chapters. Touch or drag it to go there. */
const props = defineProps<{
  timeline: Timeline;
  loudness: Uint8Array;
  chapters: Watch['chapters'];
  playhead: number;
  repeated: { from: number; to: number | null } | null;
  prompts: Watch['prompts'];
  questions: Watch['questions'];
}>();
const emit = defineEmits<{ seek: [samples: number] }>();

const canvas = ref<HTMLCanvasElement>();
const room = useRoomLight();
const length = computed(() => Math.max(1, props.timeline.lengthSamples));
const partOf = (samples: number) => `${(Math.min(samples, length.value) / length.value) * 100}%`;
/** Where chapters begin, but for the first. */
const beginnings = computed(() => props.chapters.filter(({ startSamples }) => startSamples > 0));
const chapter = computed(() => props.chapters.findLast(({ startSamples }) => startSamples <= props.playhead));
const spoken = computed(() => {
  const time = spokenTime(props.playhead);
  return chapter.value ? `${time}, ${chapter.value.title}` : time;
});

function draw() {
  const element = canvas.value;
  if (!element || element.clientWidth === 0) return;
  const density = window.devicePixelRatio || 1;
  const { clientWidth: width, clientHeight: height } = element;
  element.width = Math.round(width * density);
  element.height = Math.round(height * density);
  const surface = element.getContext('2d')!;
  surface.scale(density, density);
  const area = { fromSamples: 0, toSamples: length.value, width, top: 0, height, color: room.color.value };
  drawVoice(surface, ribbonFor(Math.ceil(width)), area);
  drawMarks(surface, props.timeline.trail.marks, area, true);
}

/** How loud it is from pixel to pixel. */
function ribbonFor(width: number): Float32Array {
  const { loudness } = props;
  const ribbon = new Float32Array(width);
  if (loudness.length === 0) return ribbon;
  for (let x = 0; x < width; x++) {
    const from = Math.floor((x / width) * loudness.length);
    const to = Math.max(from + 1, Math.floor(((x + 1) / width) * loudness.length));
    for (let i = from; i < to; i++) ribbon[x] += loudness[i] / 255 / (to - from);
  }
  return ribbon;
}

useResizeObserver(canvas, draw);
watch(() => [props.timeline, props.loudness, room.color.value], draw);
</script>

<template>
  <div class="map">
    <canvas ref="canvas" aria-hidden="true"></canvas>
    <span
      v-if="repeated"
      class="repeated"
      :style="{ left: partOf(repeated.from), right: `calc(100% - ${partOf(repeated.to ?? playhead)})` }"
    ></span>
    <span class="ahead" :style="{ left: partOf(playhead) }"></span>
    <span v-for="one in beginnings" :key="one.startSamples" class="chapter" :style="{ left: partOf(one.startSamples) }">
    </span>
    <span v-for="one in prompts" :key="one.id" class="sign" :style="{ left: partOf(one.atSamples) }">?</span>
    <span v-for="one in questions" :key="one.id" class="sign asked" :style="{ left: partOf(one.atSamples) }"></span>
    <span class="playhead" :style="{ left: partOf(playhead) }"></span>
    <input
      class="along"
      type="range"
      min="0"
      :max="length"
      :step="secondsToSamples(0.1)"
      :value="playhead"
      aria-label="Where to play"
      :aria-valuetext="spoken"
      @input="emit('seek', Number(($event.target as HTMLInputElement).value))"
    />
  </div>
</template>

<style scoped>
.map {
  position: relative;
  height: 64px;
  margin: 0 10px;
}

canvas {
  display: block;
  width: 100%;
  height: 100%;
}

.ahead,
.repeated,
.chapter,
.playhead {
  position: absolute;
  top: 0;
  bottom: 0;
  pointer-events: none;
}

/* What is still to come is fainter. */
.ahead {
  right: 0;
  background: color-mix(in srgb, var(--sail) 52%, transparent);
}

.repeated {
  background: color-mix(in srgb, var(--straw) 42%, transparent);
  border-inline: 2px solid var(--straw-deep);
}

.chapter {
  width: 2px;
  margin-left: -1px;
  background: color-mix(in srgb, var(--kite) 55%, transparent);
}

.playhead {
  width: 3px;
  margin-left: -1.5px;
  background: var(--ink);
  border-radius: 2px;
}

.playhead::before {
  position: absolute;
  bottom: -9px;
  left: -8.5px;
  box-sizing: border-box;
  width: 20px;
  height: 20px;
  content: '';
  background: var(--ink);
  border: 3px solid var(--sail);
  border-radius: 50%;
}

/* Where the teacher asks, and where others have asked. */
.sign {
  position: absolute;
  top: -2px;
  width: 18px;
  height: 18px;
  margin-left: -9px;
  font-size: 0.8rem;
  font-weight: 700;
  line-height: 18px;
  color: var(--on-tail);
  text-align: center;
  pointer-events: none;
  background: var(--tail);
  border-radius: 5px;
}

.asked {
  width: 10px;
  height: 10px;
  margin-left: -5px;
  border-radius: 50%;
}

/* It lies over the map, and is what hands and keys take hold of. Its thumb is as thin as the playhead, so that both are at one place. */
.along {
  position: absolute;
  inset: -4px 0 -12px;
  width: 100%;
  height: calc(100% + 16px);
  margin: 0;
  appearance: none;
  cursor: pointer;
  background: transparent;
  touch-action: none;
}

.along::-webkit-slider-runnable-track {
  height: 100%;
}

.along::-webkit-slider-thumb {
  width: 1px;
  height: 100%;
  appearance: none;
  background: transparent;
}

.along::-moz-range-thumb {
  width: 1px;
  height: 100%;
  background: transparent;
  border: 0;
}

@media (max-height: 560px) {
  .map {
    height: 44px;
  }
}
</style>
