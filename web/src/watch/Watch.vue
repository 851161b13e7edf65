<script setup lang="ts">
import { samplesToMs } from '@kite-trail/core/trail/clock';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import { refDebounced, useMediaQuery, useOnline, usePreferredReducedMotion } from '@vueuse/core';
import { useKeptSetting } from '../device/kept-setting';
import { clockText } from '../look/time';
import type { ProgrammePlayer } from '../playback/programme-player';
import { usePlayer } from '../playback/use-player';
import { usePrompts } from './asking/prompts';
import { useQuestions } from './asking/questions';
import { useVisit } from './counting/use-visit';
import CaptionsLine from './reading/CaptionsLine.vue';
import { isOfSchool } from './opening/load';
import { useOpened } from './opening/opened';
import { useOwnWays } from './steering/own-ways';
import { usePace } from './steering/pace';
import PasscodeForm from './opening/PasscodeForm.vue';
import { useGoing } from './steering/going';
import TrailMap from './steering/TrailMap.vue';
import { useWatching } from './steering/watching';
import WatchControls, { type Beside } from './steering/WatchControls.vue';
import type WatchedPage from './page/WatchedPage.vue';
import WatchProblem from './opening/WatchProblem.vue';

/** The student's page: the explanation as large as it can be, its trail as a map, and big plain controls. */
const { token } = defineProps<{ token: string }>();
const emit = defineEmits<{ heard: [atSamples: number] }>();

// Whoever only listens need not wait for it.
const loadPage = () => import('./page/WatchedPage.vue');
const WatchedPageLater = defineAsyncComponent(loadPage);
const Transcript = defineAsyncComponent(() => import('./reading/Transcript.vue'));
const PageList = defineAsyncComponent(() => import('./page/PageList.vue'));
const PromptCard = defineAsyncComponent(() => import('./asking/PromptCard.vue'));
const QuestionsPanel = defineAsyncComponent(() => import('./asking/QuestionsPanel.vue'));
const WaysPanel = defineAsyncComponent(() => import('./steering/WaysPanel.vue'));

// It comes beside what it shows, and is asked for again by then if it does not.
void loadPage().catch(() => {});
const player = usePlayer<ProgrammePlayer>();
const { about, timeline, captions, typed, images, arrivals, problem, isLocked, isWaiting, goesOnAt, ...opened } =
  useOpened(token, player);
const { title, hasSound, chapters, prompts, loudness, length, files, load } = opened;
const ways = useOwnWays();
const pace = usePace(player, timeline, loudness, hasSound);
const { pages, skip, toPage, step, hear } = useGoing(player, timeline, chapters, pace);
const { asked, answers, answer, goOn, askAgain } = usePrompts(token, player, prompts);
const questions = useQuestions(token, about);
useVisit(token, player, about, pace.voice);
const page = ref<InstanceType<typeof WatchedPage>>();
const kept = useKeptSetting<'yes' | 'no'>('kite-trail-reads-along', 'no');
const readsAlong = computed({ get: () => kept.value === 'yes', set: (is) => (kept.value = is ? 'yes' : 'no') });
const chosen = ref<Beside | null>(null);
const isOnline = useOnline();
// A moment after each jump is nothing to tell of.
const waitsLong = refDebounced(isWaiting, 1000);
const trouble = computed(() => {
  if (isWaiting.value && waitsLong.value) return 'Waiting for the network. It goes on by itself.';
  return isOnline.value || !isOfSchool(token)
    ? ''
    : 'There is no network just now. What has been loaded goes on playing.';
});
/** A phone held upright has room for more than the page. */
const isTall = useMediaQuery('(max-width: 760px) and (max-aspect-ratio: 3/4)');
const prefersMotion = usePreferredReducedMotion();

/** On a phone something always fills the room below the controls. */
const beside = computed(() => {
  if (chosen.value || !isTall.value) return chosen.value;
  return pages.value.length > 1 ? 'pages' : captions.value.length > 0 ? 'transcript' : 'ways';
});
const asks = computed(() => prompts.value.length + questions.answered.value.length > 0 || questions.mayAsk.value);
const hasLessMotion = computed(() => ways.motion.value === 'less' || prefersMotion.value === 'reduce');
const moment = computed(() => {
  const now = timeline.value?.at(player.samples.value) ?? null;
  return now && hasLessMotion.value ? { ...now, growing: new Map<never, number>() } : now;
});
const nowMs = computed(() => samplesToMs(player.samples.value));
/** What is said just now. */
const said = computed(() =>
  captions.value.filter(({ startMs, endMs }) => nowMs.value >= startMs && nowMs.value < endMs),
);
async function print() {
  const { printPages } = await import('./page/printing');
  await printPages(timeline.value!, images.value!, title.value);
}

useWatching({
  token,
  player,
  length,
  title,
  goesOnAt,
  keys: {
    toggle: player.toggle,
    skip,
    step,
    toStart: () => player.seek(0),
    toEnd: () => player.seek(length.value),
  },
});

watch(player.samples, (at) => player.playing.value && emit('heard', at));

function fromBeginning() {
  goesOnAt.value = 0;
  player.seek(0);
}
</script>

<template>
  <passcode-form v-if="isLocked" :token="token" @open="load" />
  <watch-problem v-else-if="problem" @again="load">{{ problem }}</watch-problem>
  <main v-else class="watch" :style="ways.style.value">
    <header class="head">
      <h1 dir="auto">{{ title || 'Opening…' }}</h1>
      <p v-if="trouble" class="trouble" role="status">{{ trouble }}</p>
      <p v-else-if="goesOnAt > 0" class="trouble" role="status">
        You were at {{ clockText(goesOnAt) }}.
        <button class="text" @click="fromBeginning">From the beginning</button>
      </p>
    </header>
    <div class="middle">
      <watched-page-later
        v-if="moment && images && timeline"
        ref="page"
        :moment="moment"
        :pages="pages"
        :images="images"
        :arrivals="arrivals"
        :trail="timeline.trail"
        @page="toPage"
        @hear="hear"
        @toggle="player.toggle"
      >
        <captions-line
          v-if="readsAlong && said.length > 0"
          :said="said"
          :now-ms="nowMs"
          :place="ways.captionPlace.value"
        />
      </watched-page-later>
      <div v-else class="page-to-come"></div>
      <prompt-card
        v-if="asked"
        :key="asked.id"
        class="beside"
        :prompt="asked"
        :answer="answers[asked.id] ?? ''"
        @answer="answer(asked.id, $event)"
        @go-on="goOn"
      />
      <transcript
        v-else-if="beside === 'transcript'"
        class="beside"
        :captions="captions"
        :typed="typed"
        :chapters="chapters"
        :playhead="player.samples.value"
        @seek="player.seek($event)"
        @close="chosen = null"
      />
      <page-list
        v-else-if="beside === 'pages' && timeline && images"
        class="beside"
        :timeline="timeline"
        :page="pages.indexOf(moment!.scene.shown) + 1"
        :images="images"
        :arrivals="arrivals"
        @page="toPage"
      />
      <questions-panel
        v-else-if="beside === 'questions'"
        class="beside"
        :playhead="player.samples.value"
        :prompts="prompts"
        :answers="answers"
        :questions="questions"
        @seek="player.seek($event)"
        @prompt="askAgain"
        @close="chosen = null"
      />
      <ways-panel
        v-else-if="beside === 'ways' && timeline"
        class="beside"
        :pace="pace"
        :ways="ways"
        :chapters="chapters"
        :has-captions="captions.length > 0"
        :files="files"
        :is-counted="about?.isCounted ?? false"
        @step="step"
        @print="print"
        @full-screen="page?.fill()"
        @close="chosen = null"
      />
    </div>
    <div v-if="about" class="controls">
      <trail-map
        v-if="timeline"
        :timeline="timeline"
        :loudness="loudness"
        :chapters="chapters"
        :playhead="player.samples.value"
        :repeated="pace.repeated.value"
        :prompts="prompts"
        :questions="questions.answered.value"
        @seek="player.seek"
      />
      <div v-else class="map-to-come"></div>
      <watch-controls
        v-model:reads-along="readsAlong"
        v-model:beside="chosen"
        :player="player"
        :pace="pace"
        :length="length"
        :chapters="chapters"
        :has-pages="pages.length > 1"
        :has-captions="captions.length > 0"
        :has-transcript="captions.length + typed.length > 0"
        :has-questions="asks"
        @skip="skip"
      />
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

.map-to-come {
  height: 64px;
}

.page-to-come {
  flex: 1;
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

.controls {
  width: 100%;
  max-width: 84rem;
  padding-top: 0.5rem;
  margin: 0 auto;
}

.text {
  padding: 0;
  color: var(--tail);
  text-decoration: underline;
  cursor: pointer;
  background: none;
  border: 0;
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
