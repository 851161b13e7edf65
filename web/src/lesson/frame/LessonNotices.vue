<script setup lang="ts">
import { IconX } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed, watch } from 'vue';
import { useOutbox } from '../../app/outbox';
import { useFiles } from '../files';
import { useLesson } from '../lesson';
import { useUnread } from './unread';
import { useWholeLesson } from './whole-lesson';
import { useOtherWindows } from '../other-windows';
import { useNotices } from '../notices';
import { useRecordingNow } from '../recording-now';

/** What went wrong, or what the teacher should know; one thing at a time, the gravest first. */
const lesson = useLesson();
const whole = useWholeLesson();
const others = useOtherWindows();
const recording = useRecordingNow();
const outbox = useOutbox();
const files = useFiles();
const notices = useNotices();

const MISSING = 'A picture or PDF on this page cannot be loaded just now. It is tried again every few seconds.';
const ELSEWHERE =
  'This lesson is being recorded in another window or on another device. You can look on, and record when that one has finished.';

const unreadable = useUnread();
const refusal = computed({ get: () => outbox.refusal, set: (to) => (outbox.refusal = to) });
const found = computed(() => (lesson.document && outbox.found[lesson.document.id]) ?? null);

notices.add('problem', refusal, () => (refusal.value = null));
notices.add('news', found, () => lesson.document && outbox.forgetFound(lesson.document.id));
notices.tellWhile('news', () => (!recording.isOn && files.missing > 0 ? MISSING : null));
notices.tellWhile('news', () => (recording.isOn ? null : unreadable.value));
// Looking on is all that can be done meanwhile.
notices.tellWhile('news', () => (others.isRecording ? ELSEWHERE : null), { stays: true });

/** A take without an end is none that broke off while somebody records it or it is on its way. */
const isGoingOn = computed(
  () => !recording.isIdle || !others.isHolderKnown || others.isRecording || !lesson.isWithServer,
);
const abandoned = computed(() =>
  (lesson.document?.takes ?? []).filter(
    (take) => !take.ended && take.partCount > 0 && !outbox.holds(take.id) && !isGoingOn.value,
  ),
);

// While recording there is nothing else to read.
watch(
  () => recording.state,
  (state) => (state === 'counting' || state === 'recording') && notices.dismiss(),
);

const problem = notices.place('problem');
async function attempt(what: () => Promise<void>) {
  try {
    await what();
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
</script>

<template>
  <div class="notices">
    <p
      v-if="notices.shown"
      class="notice"
      :class="{ bad: notices.shown.kind === 'problem' }"
      :role="notices.shown.kind === 'problem' ? 'alert' : 'status'"
    >
      {{ notices.shown.text }}
      <button class="close" aria-label="Close this message" @click="notices.dismiss()"><icon-x :size="18" /></button>
    </p>
    <p v-else-if="lesson.document?.isBinned && !recording.isOn" class="notice" role="status">
      This lesson lies in the bin. Nobody can watch it, and in time it goes for good.
      <n-button text type="primary" @click="attempt(() => whole.unbin())">Put it back</n-button>
    </p>
    <p v-for="take in abandoned" v-else :key="take.id" class="notice" role="status">
      A recording that broke off elsewhere is on the server.
      <n-button text type="primary" @click="attempt(() => whole.keepBeginning(take.id))">Keep it</n-button>
    </p>
  </div>
</template>

<style scoped>
/* The page must not move, least of all under a pen: what is told lies over it. */
.notices {
  position: relative;
  z-index: 5;
  height: 0;
}

.notices :deep(button) {
  pointer-events: auto;
}

.notice {
  pointer-events: none;
  box-shadow: var(--shadow);
  display: flex;
  gap: 0.6rem;
  align-items: center;
  width: fit-content;
  max-width: min(46rem, 100% - 2rem);
  min-height: 44px;
  padding: 0.3rem 0.4rem 0.3rem 1rem;
  margin: 0.5rem auto 0;
  background: var(--straw-pale);
  border-radius: var(--radius);
}

.notice.bad {
  color: var(--kite-deep);
  background: var(--kite-pale);
}

.close {
  display: grid;
  place-items: center;
  width: 44px;
  height: 44px;
  margin-left: auto;
  color: inherit;
  cursor: pointer;
  background: transparent;
  border: 0;
}
</style>
