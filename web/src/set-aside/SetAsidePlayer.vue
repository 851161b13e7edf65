<script setup lang="ts">
import type { Programme } from '@kite-trail/core/trail/programme';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { IconPlayerPauseFilled, IconPlayerPlayFilled } from '@tabler/icons-vue';
import { computed, onMounted, ref, watch } from 'vue';
import { clockText, spokenTime } from '../look/time';
import { Stage } from '../playback/stage';
import { TrailPlayer } from '../playback/trail-player';
import { usePlayer } from '../playback/use-player';
import { useFiles } from '../lesson/files';
import { useVoiceUrls } from '../lesson/voice-urls';
import { useVoices } from '../lesson/voices';

/** Plays a recording that is no part of the trail: its page and its voice. */
const { programme, timeline } = defineProps<{ programme: Programme; timeline: Timeline }>();

const WIDTH_PX = 640;
const HEIGHT_PX = 400;

const voiceUrls = useVoiceUrls();
const files = useFiles();
const voices = useVoices();
const player = usePlayer<TrailPlayer>();
const canvas = ref<HTMLCanvasElement>();
const length = computed(() => timeline.trail.lengthSamples);
let stage: Stage | null = null;

const voicesOf = (of: Programme) => ({
  programme: of,
  urls: voiceUrls.ofAll(of),
  mastering: voices.masteringNow(of),
});

onMounted(() => {
  stage = new Stage(canvas.value!, () => files.images);
  player.load(new TrailPlayer(programme, voicesOf));
  show();
  player.play();
});
watch([player.samples, () => files.arrivals], show);

function show() {
  const moment = timeline.at(player.samples.value);
  const { widthPx, heightPx } = stage!.fit(moment, { widthPx: WIDTH_PX, heightPx: HEIGHT_PX });
  Object.assign(canvas.value!.style, { width: `${widthPx}px`, height: `${heightPx}px` });
}
</script>

<template>
  <div class="player">
    <canvas ref="canvas" class="page"></canvas>
    <div class="bar">
      <button
        class="play"
        :aria-label="player.playing.value ? 'Pause the recording' : 'Play the recording'"
        @click="player.toggle()"
      >
        <icon-player-pause-filled v-if="player.playing.value" />
        <icon-player-play-filled v-else />
      </button>
      <input
        type="range"
        min="0"
        :max="length"
        :value="player.samples.value"
        aria-label="Moment of the recording"
        :aria-valuetext="spokenTime(player.samples.value)"
        @input="player.seek(Number(($event.target as HTMLInputElement).value))"
      />
      <span class="time">{{ clockText(player.samples.value) }} / {{ clockText(length) }}</span>
    </div>
  </div>
</template>

<style scoped>
.player {
  display: grid;
  gap: 0.75rem;
  justify-items: center;
}

.page {
  max-width: 100%;
  border-radius: 6px;
  box-shadow: var(--shadow);
}

.bar {
  display: flex;
  gap: 0.75rem;
  align-items: center;
  width: 100%;
}

.bar input {
  flex: 1;
  min-height: 44px;
  accent-color: var(--tail);
}

.play {
  display: grid;
  place-items: center;
  width: 48px;
  height: 48px;
  color: var(--on-tail);
  cursor: pointer;
  background: var(--tail);
  border: 0;
  border-radius: 50%;
}

.time {
  font-variant-numeric: tabular-nums;
}
</style>
