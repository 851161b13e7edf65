<script setup lang="ts">
import { IconX } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useAudience } from '../board/audience';
import { useBringIn } from '../bring-in/bring-in';
import { useComposing } from '../board/composing/composing';
import { useDesk } from './desk';
import { useEditing } from './editing';
import { useFiles } from './files';
import { useLesson } from './lesson';
import { useOutbox } from '../app/outbox';
import { useRecording } from '../record/recording';
import { useSheetPictures } from '../bring-in/sheet-pictures';

/** What went wrong, or what the teacher should know; one thing at a time, the gravest first. */
const problem = defineModel<string>('problem', { required: true });

const desk = useDesk();
const lesson = useLesson();
const recording = useRecording();
const outbox = useOutbox();
const editing = useEditing();
const audience = useAudience();
const bringIn = useBringIn();
const composing = useComposing();
const files = useFiles();
const sheetPictures = useSheetPictures();

const worst = computed(
  () =>
    problem.value ||
    desk.problem ||
    recording.problem ||
    outbox.refusal ||
    editing.problem ||
    bringIn.problem ||
    composing.problem ||
    audience.problem ||
    sheetPictures.problem,
);
const found = computed(() => lesson.document && outbox.found[lesson.document.id]);
const WITHOUT_VOICE = {
  silence:
    'Nothing comes from the microphone, not even noise. It may be switched off, or another one is meant: pause, and check it.',
  noise:
    'Nothing but noise has come from the microphone so far. If you are speaking, another one may be meant: pause, and check it.',
};
const MISSING = 'A picture or PDF on this page cannot be loaded just now. It is tried again every few seconds.';
/** It may be a newer program's, or damaged. */
const unreadable = computed(() => {
  const count = lesson.unreadCount;
  if (count === 0) return null;
  const what = count === 1 ? 'One thing in this lesson' : `${count} things in this lesson`;
  return `${what} cannot be read by this version, and ${count === 1 ? 'is' : 'are'} not shown. All of it is kept as it is.`;
});
/** Once told, it need not be told again at this visit. */
const isUnreadKnown = ref(false);
/** What is wrong with the voice, once the teacher has read it. */
const known = ref<typeof recording.noVoice>(null);
watch(
  () => recording.noVoice,
  (now) => now === null && (known.value = null),
);
/** Looking on is all that can be done meanwhile. */
const elsewhere = computed(
  () =>
    lesson.recordedElsewhere &&
    'This lesson is being recorded in another window or on another device. You can look on, and record when that one has finished.',
);
const notice = computed(
  () =>
    elsewhere.value ||
    (recording.noVoice && recording.noVoice !== known.value && WITHOUT_VOICE[recording.noVoice]) ||
    lesson.notice ||
    bringIn.notice ||
    recording.pausedBy ||
    found.value ||
    (!recording.isOn && files.missing > 0 && MISSING) ||
    (!recording.isOn && !isUnreadKnown.value && unreadable.value),
);
/** A take without an end is none that broke off while somebody records it or it is on its way. */
const isGoingOn = computed(
  () => recording.state !== 'idle' || !lesson.isHolderKnown || lesson.recordedElsewhere || !lesson.isWithServer,
);
const abandoned = computed(() =>
  (lesson.document?.takes ?? []).filter(
    (take) => !take.ended && take.partCount > 0 && !outbox.holds(take.id) && !isGoingOn.value,
  ),
);

// While recording there is nothing else to read.
watch(
  () => recording.state,
  (state) => (state === 'counting' || state === 'recording') && dismiss(),
);

function dismiss() {
  if (lesson.document) outbox.forgetFound(lesson.document.id);
  problem.value = '';
  isUnreadKnown.value = true;
  known.value = recording.noVoice;
  desk.problem =
    recording.problem =
    outbox.refusal =
    editing.problem =
    bringIn.problem =
    composing.problem =
    sheetPictures.problem =
      null;
  audience.problem = null;
  lesson.notice = bringIn.notice = recording.pausedBy = null;
}

async function keep(take: (typeof abandoned.value)[number]) {
  try {
    await lesson.keepBeginning(take.id);
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
</script>

<template>
  <div class="notices" :class="{ over: recording.isOn }">
    <p v-if="worst || notice" class="notice" :class="{ bad: worst }" :role="worst ? 'alert' : 'status'">
      {{ worst || notice }}
      <button class="close" aria-label="Close this message" @click="dismiss"><icon-x :size="18" /></button>
    </p>
    <p v-for="take in abandoned" v-else :key="take.id" class="notice" role="status">
      A recording that broke off elsewhere is on the server.
      <n-button text type="primary" @click="keep(take)">Keep it</n-button>
    </p>
  </div>
</template>

<style scoped>
/* While somebody writes, the page must not move under the pen: what is told lies over it. */
.notices.over {
  position: relative;
  z-index: 5;
  height: 0;
}

.notices.over .notice {
  pointer-events: none;
  box-shadow: var(--shadow);
}

.notices.over .close {
  pointer-events: auto;
}

.notice {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  padding: 0.3rem 0.4rem 0.3rem 1rem;
  margin: 0.5rem 1rem 0;
  background: var(--straw-pale);
  border-radius: var(--radius);
}

.notice.bad {
  color: #7c2410;
  background: #fbe3dc;
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
