<script setup lang="ts">
import { pieceBounds } from '@kite-trail/core/lesson/bounds';
import type { PageId } from '@kite-trail/core/lesson/ids';
import { shownPage } from '@kite-trail/core/lesson/scene';
import type { Placement } from '@kite-trail/core/paint/surface';
import { moved, viewOf, type Box, type PlacePx, type View } from '@kite-trail/core/paint/view';
import type { Watch } from '@kite-trail/core/contract/watch';
import type { TimedText } from '@kite-trail/core/formats/timed-text';
import { samplesToMs, secondsToSamples } from '@kite-trail/core/trail/clock';
import { computed, defineAsyncComponent, onMounted, ref, shallowRef, watch } from 'vue';
import { FingerInput } from '../capture/finger-input';
import { clockText, spokenTime } from '../look/time';
import { useResizeObserver } from '@vueuse/core';
import { SPEEDS } from '../playback/player';
import { ProgrammePlayer } from '../playback/programme-player';
import { Stage } from '../playback/stage';
import { usePlayer } from '../playback/use-player';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { ImageStore } from '../pictures/image-store';
import { loadWatched } from './load';

/** The student's page: the explanation as large as it can be, and big plain controls. */
const props = defineProps<{ token: string }>();

// Whoever only plays need not load it.
const Transcript = defineAsyncComponent(() => import('./Transcript.vue'));

const CAPTIONS_KEY = 'kite-trail-reads-along';
const BACK_SECONDS = 10;
/** So far the wheel turns until the page is e times as large. */
const WHEEL_PX_PER_E = 320;

const title = ref('');
const timeline = shallowRef<Timeline | null>(null);
const problem = ref('');
const chapters = ref<Watch['chapters']>([]);
const captions = shallowRef<TimedText[]>([]);
const readsAlong = ref(localStorage.getItem(CAPTIONS_KEY) === 'yes');
const isReading = ref(false);
const frame = ref<HTMLElement>();
const canvas = ref<HTMLCanvasElement>();
const player = usePlayer<ProgrammePlayer>();
/** What the viewer looks at; `null` while they see what the teacher showed. */
const own = shallowRef<View | null>(null);
const placement = shallowRef<Placement>({ leftPx: 0, topPx: 0, pxPerPt: 1 });
let fingers: FingerInput | null = null;
let stage: Stage | null = null;
let images: ImageStore | null = null;

const length = computed(() => timeline.value?.lengthSamples ?? 0);
const pages = computed(() => timeline.value?.pagesAtEnd ?? []);
const moment = computed(() => timeline.value?.at(player.samples.value) ?? null);
const shownNumber = computed(() => pages.value.indexOf(moment.value?.scene.shown as PageId) + 1);
/** What is said just now. */
const said = computed(() => {
  const nowMs = samplesToMs(player.samples.value);
  return captions.value.filter(({ startMs, endMs }) => nowMs >= startMs && nowMs < endMs).map(({ text }) => text);
});
const chapterNumber = computed(() =>
  chapters.value.findLastIndex(({ startSamples }) => startSamples <= player.samples.value),
);
/** Where chapters begin, as parts of the whole. */
const chapterMarks = computed(() =>
  chapters.value
    .filter(({ startSamples }) => startSamples > 0)
    .map(({ startSamples }) => startSamples / Math.max(1, length.value)),
);
/** When each page is first turned to. */
const turns = computed(() => {
  const found = new Map<PageId, number>();
  for (const mark of timeline.value?.trail.marks ?? []) {
    if (mark.kind === 'turn' && !found.has(mark.page)) found.set(mark.page, mark.atSamples);
  }
  return found;
});

onMounted(load);
watch(frame, (element) => {
  fingers?.dispose();
  if (!element) return;
  fingers = new FingerInput(element, {
    // One finger plays and pauses until the page is larger; two always move it.
    isElsewhere: () => false,
    use: () => (own.value ? 'move' : 'write'),
    began: () => {},
    moved: ({ factor, from, to }) => look({ factor, from: inFrame(from), to: inFrame(to) }),
  });
});
useResizeObserver(frame, () => fit());
watch(
  moment,
  (now, before) => {
    if (!now) return;
    if (own.value === null && now.scene.look !== before?.scene.look) fit();
    else stage?.show(now);
  },
  { flush: 'sync' },
);
watch(shownNumber, () => (own.value = null));

async function load() {
  problem.value = '';
  try {
    const watched = await loadWatched(props.token);
    title.value = document.title = watched.title;
    chapters.value = watched.chapters;
    void watched.captions.then((read) => (captions.value = read)).catch(() => {});
    player.load(new ProgrammePlayer(watched.programme, watched.soundUrl));
    images = new ImageStore(watched.loadImage);
    images.onArrival = () => stage?.repaint();
    timeline.value = await watched.timeline;
    requestAnimationFrame(fit);
  } catch (error) {
    problem.value = (error as Error).message;
  }
}

function fit() {
  if (!canvas.value || !frame.value || !moment.value) return;
  stage ??= new Stage(canvas.value, () => images!);
  const size = stage.fit(moment.value, box(), own.value ?? undefined);
  placement.value = size.placement;
  canvas.value.style.width = `${size.widthPx}px`;
  canvas.value.style.height = `${size.heightPx}px`;
}

const box = (): Box => ({ widthPx: frame.value!.clientWidth, heightPx: frame.value!.clientHeight });

/** The viewer looks closer, or elsewhere, until they come back to what the teacher showed. */
function look(change: { factor: number; from: PlacePx; to: PlacePx }) {
  const { page } = shownPage(moment.value!.scene);
  const now = own.value ?? viewOf(page, box(), moment.value!.scene.look);
  own.value = moved(page, box(), now, change);
  fit();
}

function comeBack() {
  own.value = null;
  fit();
}

const inFrame = ({ xPx, yPx }: PlacePx): PlacePx => {
  const { left, top } = frame.value!.getBoundingClientRect();
  return { xPx: xPx - left, yPx: yPx - top };
};

function wheeled(event: WheelEvent) {
  const at = inFrame({ xPx: event.clientX, yPx: event.clientY });
  look({ factor: Math.exp(-event.deltaY / WHEEL_PX_PER_E), from: at, to: at });
}

/** Where the pieces that lead somewhere lie, to be touched. */
const links = computed(() => {
  if (!moment.value) return [];
  const { leftPx, topPx, pxPerPt } = placement.value;
  return shownPage(moment.value.scene).pieces.flatMap((piece) => {
    if (!piece.link) return [];
    const { left, top, right, bottom } = pieceBounds(piece);
    const place = { left: leftPx + left * pxPerPt, top: topPx + top * pxPerPt };
    const style = {
      left: `${place.left}px`,
      top: `${place.top}px`,
      width: `${(right - left) * pxPerPt}px`,
      height: `${(bottom - top) * pxPerPt}px`,
    };
    return [{ id: piece.id, link: piece.link, style }];
  });
});

function skip(seconds: number) {
  player.seek(player.samples.value + secondsToSamples(seconds));
}

function toPage(number: number) {
  const at = turns.value.get(pages.value[number - 1]);
  if (at !== undefined) player.seek(at);
}

function toggleCaptions() {
  readsAlong.value = !readsAlong.value;
  localStorage.setItem(CAPTIONS_KEY, readsAlong.value ? 'yes' : 'no');
}

function nextSpeed() {
  const at = SPEEDS.findIndex((speed) => speed === player.rate.value);
  player.setRate(SPEEDS[(at + 1) % SPEEDS.length]);
}

function onKey(event: KeyboardEvent) {
  const target = event.target as HTMLElement;
  if (target.closest('select')) return;
  const onControl = target.closest('button, input') !== null;
  if (event.key === ' ' && !onControl) player.toggle();
  else if (event.key === 'ArrowLeft' && !target.closest('input')) skip(-BACK_SECONDS);
  else if (event.key === 'ArrowRight' && !target.closest('input')) skip(BACK_SECONDS);
  else return;
  event.preventDefault();
}
</script>

<template>
  <main v-if="problem" class="sorry">
    <img src="/kite.svg" alt="" />
    <p role="alert">{{ problem }}</p>
    <button class="again" @click="load">Try again</button>
  </main>
  <main v-else class="watch" @keydown="onKey">
    <h1>{{ title || 'Opening…' }}</h1>
    <div class="middle" :class="{ reading: isReading }">
      <div ref="frame" class="frame" @click="player.toggle()" @wheel.prevent="wheeled">
        <div class="page">
          <canvas ref="canvas" role="img" :aria-label="`Page ${shownNumber} of ${pages.length}`"></canvas>
          <template v-for="one in links" :key="one.id">
            <a
              v-if="one.link.to === 'web'"
              class="link"
              :href="one.link.url"
              target="_blank"
              rel="noopener noreferrer"
              :style="one.style"
              :aria-label="one.link.url"
              :title="one.link.url"
              @click.stop
            ></a>
            <button
              v-else
              class="link"
              :style="one.style"
              :aria-label="`To page ${pages.indexOf(one.link.page) + 1}`"
              @click.stop="toPage(pages.indexOf(one.link.page) + 1)"
            ></button>
          </template>
        </div>
        <p v-if="readsAlong && said.length > 0" class="captions" aria-live="off">
          <span v-for="text in said" :key="text">{{ text }}</span>
        </p>
        <button v-if="own" class="plain back" @click.stop="comeBack">Follow again</button>
      </div>
      <transcript
        v-if="isReading"
        class="beside"
        :captions="captions"
        :chapters="chapters"
        :playhead="player.samples.value"
        @seek="player.seek($event)"
        @close="isReading = false"
      />
    </div>
    <div v-if="timeline" class="controls">
      <div class="bar">
        <span v-for="part in chapterMarks" :key="part" class="mark" :style="{ left: `${part * 100}%` }"></span>
        <input
          class="along"
          type="range"
          min="0"
          :max="length"
          :step="secondsToSamples(0.1)"
          :value="player.samples.value"
          aria-label="Where to play"
          :aria-valuetext="spokenTime(player.samples.value)"
          :style="{ '--done': `${(player.samples.value / Math.max(1, length)) * 100}%` }"
          @input="player.seek(Number(($event.target as HTMLInputElement).value))"
        />
      </div>
      <div class="row">
        <button class="play" :aria-label="player.playing.value ? 'Pause' : 'Play'" @click="player.toggle()">
          <svg viewBox="0 0 24 24" aria-hidden="true">
            <path :d="player.playing.value ? 'M6 4h4v16H6zM14 4h4v16h-4z' : 'M6 3.5v17l15-8.5z'" />
          </svg>
        </button>
        <button class="plain" :aria-label="`${BACK_SECONDS} seconds back`" @click="skip(-BACK_SECONDS)">
          −{{ BACK_SECONDS }} s
        </button>
        <span class="clock">{{ clockText(player.samples.value) }} / {{ clockText(length) }}</span>
        <span class="grow"></span>
        <label v-if="chapters.length > 1" class="choice">
          <span class="visually-hidden">Chapter</span>
          <select
            :value="chapterNumber"
            @change="player.seek(chapters[Number(($event.target as HTMLSelectElement).value)].startSamples)"
          >
            <option v-for="(one, n) in chapters" :key="one.startSamples" :value="n">{{ one.title }}</option>
          </select>
        </label>
        <label v-else-if="pages.length > 1" class="choice">
          Page
          <select :value="shownNumber" @change="toPage(Number(($event.target as HTMLSelectElement).value))">
            <option v-for="n in pages.length" :key="n" :value="n">{{ n }}</option>
          </select>
        </label>
        <template v-if="captions.length > 0">
          <button class="plain" :aria-pressed="readsAlong" title="Captions" @click="toggleCaptions">Captions</button>
          <button class="plain" :aria-expanded="isReading" @click="isReading = !isReading">Transcript</button>
        </template>
        <button class="plain" :aria-label="`Speed ${player.rate.value} times`" @click="nextSpeed">
          {{ player.rate.value }} ×
        </button>
      </div>
    </div>
  </main>
</template>

<style scoped>
.watch {
  display: flex;
  flex-direction: column;
  height: 100dvh;
  padding: 0 0.75rem;
}

h1 {
  margin: 0.6rem 0.25rem;
  overflow: hidden;
  font-size: 1.15rem;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.middle {
  display: flex;
  flex: 1;
  gap: 0.75rem;
  min-height: 0;
}

.beside {
  flex: 0 0 min(380px, 40%);
}

.captions {
  position: absolute;
  bottom: 10px;
  left: 50%;
  display: grid;
  gap: 2px;
  width: max-content;
  max-width: 94%;
  padding: 0.35rem 0.8rem;
  margin: 0;
  font-size: clamp(1.05rem, 2.2vw, 1.5rem);
  line-height: 1.35;
  color: #fff;
  text-align: center;
  white-space: pre-line;
  pointer-events: none;
  background: rgb(31 42 68 / 88%);
  border-radius: 8px;
  transform: translateX(-50%);
}

.frame {
  display: grid;
  flex: 1;
  min-width: 0;
  position: relative;
  place-items: center;
  min-height: 0;
  overflow: hidden;
  touch-action: none;
}

.page {
  position: relative;
  line-height: 0;
}

.link {
  position: absolute;
  padding: 0;
  cursor: pointer;
  background: rgb(18 119 111 / 7%);
  border: 0;
  border-bottom: 3px solid var(--tail);
  border-radius: 4px;
}

.link:hover {
  background: rgb(18 119 111 / 16%);
}

.back {
  position: absolute;
  right: 8px;
  bottom: 8px;
}

canvas {
  border-radius: 4px;
  box-shadow: var(--shadow);
}

.controls {
  width: 100%;
  max-width: 72rem;
  padding: 0.5rem 0 0.9rem;
  margin: 0 auto;
}

.bar {
  position: relative;
}

/* Where a chapter begins. */
.mark {
  position: absolute;
  top: 50%;
  z-index: 1;
  width: 3px;
  height: 16px;
  margin: -8px 0 0 -1.5px;
  pointer-events: none;
  background: var(--kite);
  border-radius: 2px;
}

.along {
  display: block;
  width: 100%;
  height: 36px;
  margin: 0;
  appearance: none;
  cursor: pointer;
  background: transparent;
}

.along::-webkit-slider-runnable-track {
  height: 8px;
  background: linear-gradient(to right, var(--tail) var(--done), #d8ccb4 var(--done));
  border-radius: 4px;
}

.along::-moz-range-track {
  height: 8px;
  background: linear-gradient(to right, var(--tail) var(--done), #d8ccb4 var(--done));
  border-radius: 4px;
}

.along::-webkit-slider-thumb {
  width: 26px;
  height: 26px;
  margin-top: -9px;
  appearance: none;
  background: var(--tail);
  border: 3px solid var(--paper);
  border-radius: 50%;
}

.row {
  display: flex;
  gap: 0.6rem;
  align-items: center;
}

.play {
  display: grid;
  flex: none;
  place-items: center;
  width: 60px;
  height: 60px;
  cursor: pointer;
  background: var(--tail);
  border: 0;
  border-radius: 50%;
}

.play svg {
  width: 28px;
  fill: #fff;
}

.plain[aria-pressed='true'],
.plain[aria-expanded='true'] {
  background: var(--straw-pale);
  border-color: var(--straw);
}

.plain,
.choice select {
  min-width: 52px;
  min-height: 48px;
  padding: 0 0.8rem;
  font: inherit;
  color: inherit;
  cursor: pointer;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: var(--radius);
}

.clock {
  font-variant-numeric: tabular-nums;
}

.grow {
  flex: 1;
}

.sorry {
  max-width: 28rem;
  padding: 22vh 1.5rem;
  margin: 0 auto;
  font-size: 1.15rem;
  text-align: center;
}

.sorry img {
  width: 72px;
}

.again {
  min-height: 48px;
  padding: 0 1.5rem;
  cursor: pointer;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: var(--radius);
}

@media (max-width: 760px) {
  .row {
    flex-wrap: wrap;
  }

  .middle {
    flex-direction: column;
  }

  .beside {
    flex: 0 0 45%;
  }
}

@media (max-width: 560px) {
  .watch {
    padding: 0 0.4rem;
  }

  .row {
    gap: 0.35rem;
  }

  .plain,
  .choice select {
    padding: 0 0.4rem;
  }

  .choice {
    font-size: 0;
  }

  .choice select {
    max-width: 8.5rem;
  }

  .choice select {
    font-size: 1rem;
  }
}
</style>
