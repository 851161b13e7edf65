<script setup lang="ts">
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { IconArrowsHorizontal, IconZoomIn, IconZoomOut } from '@tabler/icons-vue';
import { computed, ref, watch } from 'vue';
import TrailStrip from './TrailStrip.vue';
import type { TrailLanes, TrailPicture } from './trail-drawing';

/** The trail as it is edited: from all of it to single words, with its chapters, segments and captions. */
const props = defineProps<{
  picture: TrailPicture;
  playhead: number;
  ends: { from: number; to: number } | null;
  between: 'kept' | 'stretch';
  lanes: TrailLanes;
}>();
const emit = defineEmits<{
  seek: [samples: number];
  scrub: [samples: number];
  ends: [ends: { from: number; to: number }];
  stretch: [ends: { from: number; to: number } | null];
}>();

/** A word or two fill the screen. */
const CLOSEST_SAMPLES = secondsToSamples(1.5);
const STEP = 2;
/** Where the playhead comes to when it has left what is seen. */
const COMES_TO = 0.1;

const length = computed(() => props.picture.trail.lengthSamples);
const view = ref({ from: 0, to: length.value });
const isWhole = computed(() => view.value.from <= 0 && view.value.to >= length.value);

function look({ from, to }: { from: number; to: number }) {
  const width = Math.min(length.value, Math.max(CLOSEST_SAMPLES, to - from));
  const start = Math.min(length.value - width, Math.max(0, (from + to - width) / 2));
  view.value = { from: start, to: start + width };
}

/** Enlarges around the playhead, or around the middle where that is not seen. */
function zoom(times: number) {
  const { from, to } = view.value;
  const isSeen = props.playhead >= from && props.playhead <= to;
  const held = isSeen ? props.playhead : (from + to) / 2;
  const width = (to - from) * times;
  const start = held - ((held - from) / (to - from)) * width;
  look({ from: start, to: start + width });
}

const whole = () => look({ from: 0, to: length.value });
const nearer = () => zoom(1 / STEP);
const farther = () => zoom(STEP);
defineExpose({ nearer, farther, whole });

// What is seen stays, as far as there is something to see.
watch(length, (now, before) => (view.value.to >= before || view.value.to > now ? whole() : undefined));

// The playhead stays in sight.
watch(
  () => props.playhead,
  (now) => {
    const { from, to } = view.value;
    if (now >= from && now <= to) return;
    const start = now - (to - from) * COMES_TO;
    look({ from: start, to: start + to - from });
  },
);
</script>

<template>
  <div class="editor">
    <trail-strip
      class="strip"
      :picture="picture"
      :playhead="playhead"
      :ends="ends"
      :between="between"
      :view="view"
      :lanes="lanes"
      @seek="emit('seek', $event)"
      @scrub="emit('scrub', $event)"
      @ends="emit('ends', $event)"
      @stretch="emit('stretch', $event)"
      @view="look"
    />
    <div class="zoom" role="group" aria-label="How much of the trail is seen">
      <button aria-label="See the trail larger" @click="nearer"><icon-zoom-in :size="22" stroke="1.75" /></button>
      <button aria-label="See more of the trail" :disabled="isWhole" @click="farther">
        <icon-zoom-out :size="22" stroke="1.75" />
      </button>
      <button aria-label="See all of the trail" :disabled="isWhole" @click="whole">
        <icon-arrows-horizontal :size="22" stroke="1.75" />
      </button>
    </div>
  </div>
</template>

<style scoped>
.editor {
  display: flex;
  gap: 12px;
  min-width: 0;
  height: 100%;
}

.strip {
  flex: 1;
  min-width: 0;
}

.zoom {
  display: flex;
  flex-direction: column;
  justify-content: space-between;
}

.zoom button {
  display: grid;
  place-items: center;
  width: 44px;
  height: 44px;
  cursor: pointer;
  background: transparent;
  border: 0;
  border-radius: var(--radius);
}

.zoom button:hover:not(:disabled) {
  background: var(--sail-deep);
}

.zoom button:disabled {
  cursor: default;
  opacity: 0.35;
}
</style>
