<script setup lang="ts">
import type { PageId } from '@kite-trail/core/lesson/ids';
import { shownPage } from '@kite-trail/core/lesson/scene';
import type { Placement } from '@kite-trail/core/paint/surface';
import type { Watch } from '@kite-trail/core/contract/watch';
import type { TimedText } from '@kite-trail/core/formats/timed-text';
import { samplesToMs, secondsToSamples } from '@kite-trail/core/trail/clock';
import { computed, defineAsyncComponent, onMounted, ref, shallowRef, watch } from 'vue';
import { refDebounced, useMediaQuery, useOnline, useResizeObserver } from '@vueuse/core';
import { useKeptSetting } from '../device/kept-setting';
import { ProgrammePlayer } from '../playback/programme-player';
import { Stage } from '../playback/stage';
import { usePlayer } from '../playback/use-player';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { ImageStore } from '../pictures/image-store';
import { loadWatched } from './load';
import { useOwnLook } from './own-look';
import PageLinks from './PageLinks.vue';
import { useWatchKeys } from './watch-keys';
import WatchControls from './WatchControls.vue';
import WatchProblem from './WatchProblem.vue';

/** The student's page: the explanation as large as it can be, and big plain controls. */
const props = defineProps<{ token: string }>();

// Whoever only plays need not load it.
const Transcript = defineAsyncComponent(() => import('./Transcript.vue'));
const PageList = defineAsyncComponent(() => import('./PageList.vue'));

const title = ref('');
const timeline = shallowRef<Timeline | null>(null);
const problem = ref('');
const chapters = ref<Watch['chapters']>([]);
const captions = shallowRef<TimedText[]>([]);
const kept = useKeptSetting<'yes' | 'no'>('kite-trail-reads-along', 'no');
const readsAlong = computed({ get: () => kept.value === 'yes', set: (is) => (kept.value = is ? 'yes' : 'no') });
const isReading = ref(false);
const isOnline = useOnline();
/** What is to be heard has not come: everything waits for it. A moment after each jump is nothing to tell of. */
const isWaiting = ref(false);
const waitsLong = refDebounced(isWaiting, 1000);
const trouble = computed(() => {
  if (isWaiting.value && waitsLong.value) return 'Waiting for the network. It goes on by itself.';
  return isOnline.value ? '' : 'There is no network just now. What has been loaded goes on playing.';
});
/** A phone held upright has room for more than the page. */
const isTall = useMediaQuery('(max-width: 760px) and (max-aspect-ratio: 3/4)');
const arrivals = ref(0);
const frame = ref<HTMLElement>();
const canvas = ref<HTMLCanvasElement>();
const player = usePlayer<ProgrammePlayer>();
const placement = shallowRef<Placement>({ leftPx: 0, topPx: 0, pxPerPt: 1 });
let stage: Stage | null = null;
const images = shallowRef<ImageStore | null>(null);

const length = computed(() => timeline.value?.lengthSamples ?? 0);
const pages = computed(() => timeline.value?.pagesAtEnd ?? []);
const listsPages = computed(() => isTall.value && !isReading.value && pages.value.length > 1);
const tallness = computed(() => {
  const page = moment.value && shownPage(moment.value.scene).page;
  return page ? page.heightPt / page.widthPt : 0;
});
const moment = computed(() => timeline.value?.at(player.samples.value) ?? null);
const shownNumber = computed(() => pages.value.indexOf(moment.value?.scene.shown as PageId) + 1);
/** What is said just now. */
const said = computed(() => {
  const nowMs = samplesToMs(player.samples.value);
  return captions.value.filter(({ startMs, endMs }) => nowMs >= startMs && nowMs < endMs).map(({ text }) => text);
});
/** When each page is first turned to. */
const turns = computed(() => {
  const found = new Map<PageId, number>();
  for (const mark of timeline.value?.trail.marks ?? []) {
    if (mark.kind === 'turn' && !found.has(mark.page)) found.set(mark.page, mark.atSamples);
  }
  return found;
});

const { own, box, comeBack, wheeled } = useOwnLook(frame, () => moment.value, fit);

onMounted(load);
useResizeObserver(frame, () => fit());
watch(
  moment,
  (now, before) => {
    if (!now) return;
    if (own.value === null && now.scene.look !== before?.scene.look) fit();
    else stage?.show(now);
  },
  // Painted in the frame in which the sound is heard.
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
    const sound = new ProgrammePlayer(watched.programme, watched.soundUrl);
    sound.onWaiting = (waiting) => (isWaiting.value = waiting);
    player.load(sound);
    images.value = new ImageStore(watched.loadImage);
    images.value.onArrival = () => {
      stage?.repaint();
      arrivals.value++;
    };
    timeline.value = await watched.timeline;
    requestAnimationFrame(fit);
  } catch (error) {
    problem.value = (error as Error).message;
  }
}

function fit() {
  if (!canvas.value || !frame.value || !moment.value) return;
  stage ??= new Stage(canvas.value, () => images.value!);
  const size = stage.fit(moment.value, box(), own.value ?? undefined);
  placement.value = size.placement;
  canvas.value.style.width = `${size.widthPx}px`;
  canvas.value.style.height = `${size.heightPx}px`;
}

function skip(seconds: number) {
  player.seek(player.samples.value + secondsToSamples(seconds));
}

function toPage(number: number) {
  const at = turns.value.get(pages.value[number - 1]);
  if (at !== undefined) player.seek(at);
}

useWatchKeys({
  toggle: () => player.toggle(),
  skip,
  toStart: () => player.seek(0),
  toEnd: () => player.seek(length.value),
});
</script>

<template>
  <watch-problem v-if="problem" @again="load">{{ problem }}</watch-problem>
  <main v-else class="watch" :style="{ '--tallness': tallness }">
    <header class="head">
      <h1>{{ title || 'Opening…' }}</h1>
      <p v-if="trouble" class="trouble" role="status">{{ trouble }}</p>
    </header>
    <div class="middle" :class="{ reading: isReading }">
      <div ref="frame" class="frame" @click="player.toggle()" @wheel.prevent="wheeled">
        <div class="page">
          <canvas ref="canvas" role="img" :aria-label="`Page ${shownNumber} of ${pages.length}`"></canvas>
          <page-links v-if="moment" :moment="moment" :placement="placement" :pages="pages" @page="toPage" />
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
      <page-list
        v-else-if="listsPages && timeline && images"
        class="beside"
        :timeline="timeline"
        :page="shownNumber"
        :images="images"
        :arrivals="arrivals"
        @page="toPage"
      />
    </div>
    <watch-controls
      v-if="timeline"
      v-model:reads-along="readsAlong"
      v-model:is-reading="isReading"
      :lists-pages="listsPages"
      :player="player"
      :length="length"
      :chapters="chapters"
      :page-count="pages.length"
      :page="shownNumber"
      :has-captions="captions.length > 0"
      @page="toPage"
      @skip="skip"
    />
  </main>
</template>

<style scoped>
.watch {
  display: flex;
  flex-direction: column;
  height: 100dvh;
  padding: 0 0.75rem;
}

.head {
  display: flex;
  gap: 1rem;
  align-items: center;
  justify-content: space-between;
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

.back {
  position: absolute;
  right: 8px;
  bottom: 8px;
}

canvas {
  border-radius: 4px;
  box-shadow: var(--shadow);
}

/* Also those of the controls, which say more of some. */
.watch :deep(:where(.plain, .choice select)) {
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

/* Beside the title, so that nothing moves. */
.trouble {
  flex: none;
  padding: 0.2rem 0.8rem;
  margin: 0.35rem 0;
  background: var(--straw-pale);
  border-radius: 8px;
}

@media (max-width: 760px) {
  .middle {
    flex-direction: column;
  }

  .beside {
    flex: 0 0 45%;
  }
}

/* A phone held upright: the page across its top, the controls where a thumb is, and below them what there is to read or to go to. */
@media (max-width: 760px) and (max-aspect-ratio: 3/4) {
  .middle {
    display: contents;
  }

  .frame {
    flex: none;
    height: min(60dvh, calc(100vw * var(--tallness) + 8px));
  }

  .beside {
    flex: 1;
    order: 1;
    min-height: 0;
  }

  /* There is no room beside the title: it lies over what can be read later. */
  .trouble {
    position: fixed;
    right: 0.4rem;
    bottom: 0.4rem;
    left: 0.4rem;
    z-index: 1;
    box-shadow: var(--shadow);
  }
}

@media (max-width: 560px) {
  .watch {
    padding: 0 0.4rem;
  }

  .watch :deep(:where(.plain, .choice select)) {
    padding: 0 0.4rem;
  }
}
</style>
