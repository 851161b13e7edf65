<script setup lang="ts">
import type { LessonId, PageId } from '@kite-trail/core/lesson/ids';
import type { Programme } from '@kite-trail/core/trail/programme';
import { still, type Moment } from '@kite-trail/core/trail/timeline';
import { IconPlayerPauseFilled, IconPlayerPlayFilled } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { onBeforeRouteLeave } from 'vue-router';
import { useDroppedFiles } from '../bring-in/dropped-files';
import { clockText } from '../look/time';
import Board from '../board/Board.vue';
import CaptionsPanel from '../trim/CaptionsPanel.vue';
import ChaptersPanel from '../trim/ChaptersPanel.vue';
import ChooseBar from '../record/ChooseBar.vue';
import ComposingDialog from '../board/composing/ComposingDialog.vue';
import InkBar from '../trim/ink/InkBar.vue';
import LessonHead from './LessonHead.vue';
import LessonNotices from './LessonNotices.vue';
import PageLeaves from '../pages/PageLeaves.vue';
import PausesPanel from '../trim/PausesPanel.vue';
import PdfChooser from '../bring-in/PdfChooser.vue';
import PdfPassword from '../bring-in/PdfPassword.vue';
import PenRoll from '../board/pens/PenRoll.vue';
import PrepareBar from '../prepare/PrepareBar.vue';
import ReadingDialog from '../board/handwriting/ReadingDialog.vue';
import RecordControls from '../record/RecordControls.vue';
import RecordingStatus from '../record/RecordingStatus.vue';
import SharePanel from '../share/SharePanel.vue';
import ShortcutSheet from './ShortcutSheet.vue';
import SoundPanel from '../trim/SoundPanel.vue';
import StepControl from '../trim/StepControl.vue';
import StretchBar from '../record/StretchBar.vue';
import TakesPanel from '../trail/TakesPanel.vue';
import TemplateChooser from '../pages/TemplateChooser.vue';
import TemplateName from '../pages/TemplateName.vue';
import TrailEditor from '../trail/TrailEditor.vue';
import TrailStrip from '../trail/TrailStrip.vue';
import TrimBar from '../trim/TrimBar.vue';
import TrimTools from '../trim/TrimTools.vue';
import type { LessonStep } from './lesson-steps';
import type { TrimPanel } from '../trim/trim-panels';
import VersionsPanel from '../trim/VersionsPanel.vue';
import { SPEEDS } from '../playback/player';
import { TrailPlayer } from '../playback/trail-player';
import { usePlayer } from '../playback/use-player';
import { preloadRecorder } from '../capture/take-recorder';
import { useAudience } from '../board/audience';
import { useAudition } from '../trail/audition';
import { useBringIn } from '../bring-in/bring-in';
import { useClipboard } from '../board/selection/clipboard';
import { useDesk } from './desk';
import { useEditing } from './editing';
import { useInkChoice } from '../trim/ink/ink-choice';
import { useSelection } from '../board/selection/selection';
import { idle } from '../device/idle';
import { useLesson } from './lesson';
import { usePages } from '../pages/pages';
import { usePens } from '../board/pens/pens';
import { useRecording } from '../record/recording';
import { useStretch } from '../trail/stretch';
import { collectFiles } from '../bring-in/waiting-files';
import { useSheetPictures } from '../bring-in/sheet-pictures';
import { STEPS_BY, useTrimming, type StepBy } from '../trim/trimming';
import { useView } from '../board/view';
import { useVoices } from './voices';
import { pressed } from './lesson-keys';

const props = defineProps<{ lessonId: LessonId }>();

/** What is not sent by then waits on this device for the next visit. */
const LEAVE_AFTER_MS = 3000;

/** Which way an arrow key moves the page, in pixels: what lies that way comes into view. */
const PAN_PX = 80;
const PANS: Record<string, [number, number]> = {
  ArrowLeft: [PAN_PX, 0],
  ArrowRight: [-PAN_PX, 0],
  ArrowUp: [0, PAN_PX],
  ArrowDown: [0, -PAN_PX],
};

const lesson = useLesson();
const desk = useDesk();
const pens = usePens();
const recording = useRecording();
const stretch = useStretch();
const audition = useAudition();
const voices = useVoices();
const editing = useEditing();
const trimming = useTrimming();
const ink = useInkChoice();
const bringIn = useBringIn();
const clipboard = useClipboard();
const selection = useSelection();
const pages = usePages();
const player = usePlayer<TrailPlayer>();
const sheetPictures = useSheetPictures();
const view = useView();
const audience = useAudience();
const leaves = ref<InstanceType<typeof PageLeaves>>();
/** `null` until somebody has gone to one, or the lesson is open. */
const chosenStep = ref<LessonStep | null>(null);
const step = computed({
  get: () => chosenStep.value ?? 'Prepare',
  set: (one: LessonStep) => (chosenStep.value = one),
});
const problem = ref('');
const sheetOpen = ref(false);
/** What is kept when both ends are trimmed. */
const kept = ref<{ from: number; to: number } | null>(null);
/** Where to stop playing, when only a part is to be heard. */
const until = ref<number | null>(null);
/** What lies beside the page while recording and trimming. */
const panel = ref<TrimPanel | null>(null);
const stepBy = ref<StepBy>('stroke');
const shownPanel = computed(() => {
  if (isBusy.value || panel.value === null) return null;
  if (step.value === 'Record') return panel.value === 'Takes' ? panel.value : null;
  return step.value === 'Trim' && hasTrail.value ? panel.value : null;
});
/** The trail is being edited. */
const isTrimming = computed(
  () => step.value === 'Trim' && hasTrail.value && !isBusy.value && !audition.other && !recording.redone,
);
const controls = ref<InstanceType<typeof RecordControls>>();

/** While recording, what is played back is left; between takes one may look back along the trail. */
const isAtEnd = computed(() => player.samples.value >= lesson.lengthSamples);
const isLookingBack = computed(
  () => step.value === 'Record' && lesson.lengthSamples > 0 && (audition.other !== null || !isAtEnd.value),
);
const isWriting = computed(
  () => isBusy.value || step.value === 'Prepare' || (step.value === 'Record' && !isLookingBack.value),
);
const isBusy = computed(() => recording.state !== 'idle');
const moment = computed<Moment | null>(() => {
  if (recording.moment) return recording.moment;
  if (isWriting.value || lesson.lengthSamples === 0) return desk.scene && still(desk.scene);
  return audition.timeline?.at(player.samples.value) ?? null;
});
/** The board can be written on: not while old ink plays, nor while another window records. */
const isWritable = computed(() => isWriting.value && recording.takesInk && !lesson.recordedElsewhere);
/** Pages can be turned: while seconds are counted, too. */
const canTurn = computed(
  () => isWritable.value || (recording.state === 'counting' && recording.plan.kind === 'carry-on'),
);
const hasTrail = computed(() => lesson.lengthSamples > 0);
const picture = computed(() => ({
  programme: audition.programme,
  trail: audition.timeline?.trail ?? { lengthSamples: 0, marks: [] },
  peaks: voices.peaks,
}));
const lanes = computed(() => ({ chapters: trimming.chapters, cues: trimming.cues }));
const lit = computed(() => (isTrimming.value && moment.value ? ink.litIn(moment.value) : undefined));
onMounted(async () => {
  try {
    await Promise.all([lesson.open(props.lessonId), pens.load()]);
    chosenStep.value ??= hasTrail.value ? 'Trim' : 'Prepare';
    void idle().then(preloadRecorder);
    await bringIn.bring(collectFiles());
    if (desk.scene!.pages.some(({ page }) => page.sheet)) await sheetPictures.drawMissing();
  } catch (error) {
    problem.value = (error as Error).message;
  }
});
onBeforeUnmount(() => {
  audience.close();
  const left = lesson.document?.id;
  const sent = Promise.race([editing.sent(), new Promise((resolve) => setTimeout(resolve, LEAVE_AFTER_MS))]);
  void Promise.all([lesson.save(), sent]).then(() => {
    // Another lesson may have been opened meanwhile.
    if (lesson.document?.id !== left) return;
    editing.reset();
    lesson.close();
  });
});
onBeforeRouteLeave(async () => {
  if (!recording.isOn) return recording.cancel();
  if (!window.confirm('A recording is going on. Stop it, keep it, and leave?')) return false;
  await recording.stop();
});

watch(
  () => audition.programme,
  (programme) => {
    player.load(new TrailPlayer(programme, voicesOf));
    until.value = null;
    kept.value = { from: 0, to: lesson.lengthSamples };
  },
  { flush: 'sync' },
);
function voicesOf(programme: Programme) {
  return { programme, urls: lesson.soundUrls(programme), mastering: voices.masteringNow(programme) };
}
// Whoever switches the sound while it plays hears the difference.
watch(
  () => lesson.edition.sound,
  () => player.playing.value && player.seek(player.samples.value),
);
// Of a part that is heard by itself, no more is played.
watch(player.samples, (now) => {
  if (until.value === null || now < until.value) return;
  until.value = null;
  player.pause();
});
watch(
  () => recording.state,
  (now) => {
    if (now !== 'counting') return;
    player.pause();
    step.value = 'Record';
  },
);
// Where a part was done over, both takes are to be heard and one chosen; else the take is heard from its beginning.
watch(
  () => recording.taken,
  () => {
    if (!hasTrail.value) return;
    if (recording.redone) return player.seek(recording.redone.plan.fromSamples);
    step.value = 'Trim';
    player.seek(recording.plan.kind === 'insert' ? recording.plan.atSamples : 0);
  },
);
watch(sheetOpen, (isOpen) => isOpen && void recording.interrupt());
// Whoever goes to write stops listening, and writes where the trail ends.
watch(step, (now) => {
  // Whoever goes on uses the new take.
  recording.redone = null;
  stretch.clear();
  ink.clear();
  if (now !== 'Prepare' && now !== 'Record') return;
  player.pause();
  audition.end();
  player.seek(lesson.lengthSamples);
});

/** Lets a part be heard. */
function hear(from: number, to: number) {
  player.seek(Math.max(0, from));
  until.value = to;
  player.play();
}

function hearFromStart() {
  player.seek(0);
  player.play();
}

/** Playing while preparing leads to Trim and plays on there. */
function togglePlaying() {
  if (step.value === 'Prepare') step.value = 'Trim';
  until.value = null;
  player.toggle();
}

async function attempt(work: () => Promise<void>) {
  problem.value = '';
  try {
    await work();
  } catch (error) {
    problem.value = (error as Error).message;
  }
}

function seek(samples: number) {
  until.value = null;
  player.seek(samples);
}

function scrub(samples: number) {
  until.value = null;
  player.player.value?.scrub(samples);
}

function stepAlong(direction: 1 | -1) {
  player.pause();
  scrub(trimming.step(stepBy.value, player.samples.value, direction));
}

function chooseStretch(ends: { from: number; to: number } | null) {
  ink.clear();
  stretch.ends = ends;
}

/** The stretch begins or ends at the playhead. */
function setStretchEnd(end: 'from' | 'to') {
  const at = player.samples.value;
  if (end === 'from' ? at >= lesson.lengthSamples : at <= 0) return;
  const { from, to } = stretch.ends ?? { from: 0, to: lesson.lengthSamples };
  if (end === 'from') stretch.ends = { from: at, to: to > at ? to : lesson.lengthSamples };
  else stretch.ends = { from: from < at ? from : 0, to: at };
}

/** Chosen ink goes before a stretch of time does. */
function cutByKey(how: 'keep' | 'drop') {
  if (!isTrimming.value || !lesson.isWithServer) return;
  if (ink.chosen.length > 0) return ink.takeOut();
  const goesOnAt = trimming.cutOut(how);
  if (goesOnAt !== null) seek(goesOnAt);
}

function turnTo(page: PageId) {
  if (canTurn.value) return desk.turnTo(page);
  if (isBusy.value) return;
  const turned = audition.timeline?.trail.marks.find((mark) => mark.kind === 'turn' && mark.page === page);
  if (turned) player.seek(turned.atSamples);
}

/** Pictures and PDFs from the clipboard. */
function pasted(event: ClipboardEvent) {
  const given = [...(event.clipboardData?.files ?? [])];
  if (!isWritable.value || isTyping(event)) return;
  event.preventDefault();
  if (given.length > 0) void bringIn.bring(given);
  else void attempt(clipboard.paste);
}

// What falls beside the page is brought in as well.
useDroppedFiles((files) => {
  if (isWritable.value) void bringIn.bring(files);
  else problem.value = 'This can be brought in while you prepare, or record.';
});

/** Pieces that are held are copied, unless somebody types. */
function copied(event: ClipboardEvent) {
  if (!isWritable.value || isTyping(event) || selection.pieces.length === 0) return;
  event.preventDefault();
  // What was in the clipboard before must not be pasted in their place.
  event.clipboardData?.setData('text/plain', 'Pieces of a lesson');
  if (event.type === 'cut') clipboard.cut();
  else clipboard.copy();
}

const isTyping = ({ target }: Event) => target instanceof Element && target.closest('input, textarea, select') !== null;

function onKey(event: KeyboardEvent) {
  const action = pressed(event);
  // Whatever is open is closed by Escape, too.
  if (!action || (action === 'cancel' && !recording.isStarting)) return;
  event.preventDefault();
  switch (action) {
    case 'play':
      if (recording.state === 'recording') void recording.pause();
      else if (recording.state === 'paused') void recording.resume();
      else if (step.value !== 'Prepare' && hasTrail.value && !isBusy.value) togglePlaying();
      return;
    case 'record':
      return recording.isOn ? void recording.stop() : controls.value?.record();
    case 'cancel':
      return recording.cancel();
    case 'hold-ink':
      return recording.holdInk();
    case 'undo':
      if (isWritable.value) return desk.undo();
      return isBusy.value ? undefined : editing.undo();
    case 'redo':
      if (isWritable.value) return desk.redo();
      return isBusy.value ? undefined : editing.redo();
    case 'next-page':
      if (isTrimming.value) return seek(trimming.step('page', player.samples.value, 1));
      return canTurn.value ? pages.goTo('next') : undefined;
    case 'previous-page':
      if (isTrimming.value) return seek(trimming.step('page', player.samples.value, -1));
      return canTurn.value ? pages.goTo('previous') : undefined;
    case 'stretch-from':
      return isTrimming.value ? setStretchEnd('from') : undefined;
    case 'stretch-to':
      return isTrimming.value ? setStretchEnd('to') : undefined;
    case 'cut-keep':
      return cutByKey('keep');
    case 'cut-drop':
      return cutByKey('drop');
    case 'split':
      return isTrimming.value && lesson.isWithServer ? seek(trimming.divide(player.samples.value)) : undefined;
    case 'step-on':
      return isTrimming.value ? stepAlong(1) : undefined;
    case 'step-back':
      return isTrimming.value ? stepAlong(-1) : undefined;
    case 'step-by':
      stepBy.value = STEPS_BY[(STEPS_BY.indexOf(stepBy.value) + 1) % STEPS_BY.length];
      return;
    case 'first-page':
      return canTurn.value ? pages.goTo('first') : undefined;
    case 'last-page':
      return canTurn.value ? pages.goTo('last') : undefined;
    case 'page-number':
      return leaves.value?.typeNumber(event.key);
    case 'larger':
      return view.nearer();
    case 'smaller':
      return view.farther();
    case 'whole':
      return void view.whole();
    case 'pan':
      return view.panBy(...PANS[event.key]);
    case 'width':
      return view.fitWidth();
    case 'closer':
      return selection.lookCloser();
    case 'audience':
      return audience.toggle(lesson.document!.title);
    case 'add-page':
      return isWritable.value ? pages.addBlank() : undefined;
    case 'hold':
    case 'eraser':
    case 'text':
    case 'point':
      pens.held = action;
      return;
    case 'take-all':
      pens.held = 'hold';
      return isWritable.value ? selection.takeEverything() : undefined;
    case 'duplicate':
      return selection.duplicate();
    case 'pen':
    case 'highlighter':
      return pens.pickSort(action);
    case 'shortcuts':
      sheetOpen.value = true;
  }
}
window.addEventListener('keydown', onKey);
window.addEventListener('paste', pasted);
window.addEventListener('copy', copied);
window.addEventListener('cut', copied);
onBeforeUnmount(() => {
  window.removeEventListener('keydown', onKey);
  window.removeEventListener('paste', pasted);
  window.removeEventListener('copy', copied);
  window.removeEventListener('cut', copied);
});
</script>

<template>
  <div
    v-if="lesson.document && moment"
    class="lesson"
    :class="[step.toLowerCase(), { left: pens.hand === 'left', paneled: step === 'Share' || shownPanel !== null }]"
  >
    <lesson-head v-model:step="step" @problem="problem = $event" @shortcuts="sheetOpen = true" />

    <section
      class="trail"
      :class="{ slim: isBusy || !hasTrail, editing: isTrimming }"
      aria-label="Trail"
      :aria-busy="voices.isListening"
    >
      <template v-if="isBusy && recording.state !== 'counting'">
        <recording-status />
        <prepare-bar v-if="recording.isOn && recording.takesInk" quiet />
      </template>
      <prepare-bar v-else-if="!hasTrail && isWriting" />
      <p v-else-if="!hasTrail" class="untold">What you record appears here.</p>
      <template v-else>
        <button class="play" :aria-label="player.playing.value ? 'Pause' : 'Play'" @click="togglePlaying">
          <icon-player-pause-filled v-if="player.playing.value" :size="26" />
          <icon-player-play-filled v-else :size="26" />
        </button>
        <div class="where">
          <span class="clock"
            >{{ clockText(player.samples.value) }}
            <span class="of">/ {{ clockText(picture.trail.lengthSamples) }}</span></span
          >
          <step-control v-if="isTrimming" v-model="stepBy" @step="stepAlong" />
        </div>
        <trail-editor
          v-if="isTrimming"
          class="strip"
          :picture="picture"
          :playhead="player.samples.value"
          :ends="stretch.ends ?? kept"
          :between="stretch.ends ? 'stretch' : 'kept'"
          :lanes="lanes"
          @seek="seek"
          @scrub="scrub"
          @ends="stretch.ends ? (stretch.ends = $event) : (kept = $event)"
          @stretch="chooseStretch"
        />
        <trail-strip
          v-else
          class="strip"
          :picture="picture"
          :playhead="player.samples.value"
          :ends="audition.other ? null : stretch.ends"
          between="stretch"
          @seek="seek"
          @ends="stretch.ends = $event"
        />
        <label class="speed">
          <span class="visually-hidden">Speed</span>
          <select
            :value="player.rate.value"
            @change="player.setRate(Number(($event.target as HTMLSelectElement).value))"
          >
            <option v-for="speed in SPEEDS" :key="speed" :value="speed">{{ speed }} ×</option>
          </select>
        </label>
      </template>
    </section>

    <div v-if="audition.other" class="edits" role="group" aria-label="Listening">
      <span role="status">You hear {{ audition.other.name }}.</span>
      <n-button @click="audition.end()">Back to the trail</n-button>
    </div>
    <choose-bar v-if="recording.redone && !isBusy" @hear="hear" />
    <ink-bar v-else-if="isTrimming && ink.chosen.length > 0" :playhead="player.samples.value" />
    <trim-bar v-else-if="isTrimming" :playhead="player.samples.value" :kept="kept" @seek="seek" @hear="hear" />
    <stretch-bar
      v-else-if="step === 'Record' && hasTrail && !isBusy && !audition.other && selection.pieces.length === 0"
      class="below"
      :playhead="player.samples.value"
      :is-at-end="isAtEnd"
      @to-end="player.seek(lesson.lengthSamples)"
    >
      <n-button :aria-expanded="shownPanel === 'Takes'" @click="panel = panel === 'Takes' ? null : 'Takes'">
        Takes
      </n-button>
    </stretch-bar>
    <prepare-bar v-else-if="isWriting && hasTrail && !isBusy" class="below" />

    <lesson-notices v-model:problem="problem" />

    <div class="work">
      <aside class="column" aria-label="Tools">
        <record-controls
          v-if="step === 'Record' || step === 'Prepare'"
          ref="controls"
          :can-check="step === 'Record'"
          :insert-at="isLookingBack && !audition.other ? player.samples.value : null"
        />
        <trim-tools v-if="isTrimming" v-model="panel" />
        <pen-roll v-if="isWritable" />
        <page-leaves ref="leaves" :scene="moment.scene" :can-change="isWritable" @turn="turnTo" />
      </aside>
      <div class="board">
        <board :moment="moment" :writable="isWritable" :picks="isTrimming" :lit="lit" @found="seek" />
        <div v-if="recording.state === 'counting'" class="countdown" role="status">
          {{ recording.countdown || '…' }}
        </div>
      </div>
      <share-panel v-if="step === 'Share'" class="panel" />
      <takes-panel
        v-else-if="shownPanel === 'Takes'"
        class="panel"
        @close="panel = null"
        @play="hearFromStart"
        @problem="problem = $event"
      />
      <pauses-panel v-else-if="shownPanel === 'Pauses'" class="panel" @close="panel = null" @hear="hear" />
      <chapters-panel
        v-else-if="shownPanel === 'Chapters'"
        class="panel"
        :playhead="player.samples.value"
        @close="panel = null"
        @seek="seek"
      />
      <captions-panel
        v-else-if="shownPanel === 'Captions'"
        class="panel"
        :playhead="player.samples.value"
        @close="panel = null"
        @seek="seek"
        @hear="hear"
      />
      <sound-panel v-else-if="shownPanel === 'Sound'" class="panel" @close="panel = null" />
      <versions-panel v-else-if="shownPanel === 'Versions'" class="panel" @close="panel = null" />
    </div>
    <pdf-chooser />
    <pdf-password />
    <template-chooser />
    <template-name />
    <composing-dialog />
    <reading-dialog />
    <shortcut-sheet v-model:open="sheetOpen" />
  </div>
  <main v-else class="wait">
    <template v-if="problem">
      <p role="alert">{{ problem }}</p>
      <router-link to="/">All lessons</router-link>
    </template>
    <p v-else>Opening…</p>
  </main>
</template>

<style scoped>
.lesson {
  display: flex;
  flex-direction: column;
  height: 100dvh;
  overflow: hidden;
}

.trail {
  display: flex;
  gap: 1rem;
  align-items: center;
  height: 84px;
  /* In whole pixels, for what is drawn is blurred where it does not lie on them. */
  padding: 10px 1rem;
  background: var(--paper);
  border-block: 1px solid var(--line);
}

.trail.slim {
  height: 58px;
}

.trail.editing {
  height: 176px;
}

.where {
  display: grid;
  flex: none;
  gap: 0.6rem;
}

.editing .strip {
  margin-right: 0;
}

.editing .speed {
  align-self: end;
}

.trail.slim > :first-child {
  flex: 1;
}

.untold {
  margin: 0;
  color: var(--ink-soft);
}

.play {
  display: grid;
  flex: none;
  place-items: center;
  width: 56px;
  height: 56px;
  color: #fff;
  cursor: pointer;
  background: var(--tail);
  border: 0;
  border-radius: 50%;
}

.clock {
  min-width: 6.2rem;
  font-variant-numeric: tabular-nums;
  font-weight: 650;
}

.of {
  font-weight: 400;
  color: var(--ink-soft);
}

.strip {
  flex: 1;
  margin: 0 12px;
}

.speed select {
  min-height: 44px;
  padding: 0 0.5rem;
  font: inherit;
  color: inherit;
  background: transparent;
  border: 1px solid var(--line);
  border-radius: var(--radius);
}

.edits {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  justify-content: flex-end;
  padding: 0.5rem 1rem 0;
}

.edits span:first-child {
  margin-right: 0.5rem;
  color: var(--ink-soft);
}

.below {
  flex: none;
  padding: 0.5rem 1rem 0;
  box-sizing: content-box;
}

.work {
  display: flex;
  flex: 1;
  gap: 1rem;
  min-height: 0;
  padding: 14px 1rem;
}

.left .work {
  flex-direction: row-reverse;
}

.column {
  display: flex;
  flex: 0 0 148px;
  flex-direction: column;
  gap: 0.9rem;
  min-height: 0;
}

.board {
  position: relative;
  flex: 1;
  min-width: 0;
}

.panel {
  flex: 0 0 320px;
  overflow-y: auto;
}

.countdown {
  position: absolute;
  inset: 0;
  display: grid;
  place-items: center;
  font-size: 9rem;
  font-weight: 700;
  color: var(--kite);
  background: rgb(250 246 236 / 65%);
}

.wait {
  padding: 20vh 1rem;
  text-align: center;
}

@media (max-width: 900px) {
  /* The trail that is edited gets a row of its own. */
  .trail.editing {
    flex-wrap: wrap;
    height: auto;
  }

  .editing .where {
    display: flex;
    flex: 1;
    flex-wrap: wrap;
    align-items: center;
  }

  .editing .strip {
    flex: 1 0 100%;
    order: 1;
    height: 150px;
    margin: 0 0 0 12px;
  }

  .paneled .work {
    flex-direction: column;
    overflow-y: auto;
  }

  .paneled .column {
    display: none;
  }

  .paneled .board {
    flex: 0 0 40vh;
  }

  .panel {
    flex: none;
  }
}

/* A phone held upright: the tools get a row above the page. */
@media (max-width: 640px) {
  .trail {
    gap: 0.5rem;
  }

  .clock {
    min-width: 0;
  }

  .speed {
    display: none;
  }

  .strip {
    margin: 0 4px;
  }

  .work,
  .left .work {
    flex-direction: column;
  }

  .column {
    flex: none;
    flex-direction: row;
    overflow-x: auto;
  }

  .column > * {
    flex: none;
  }
}
</style>
