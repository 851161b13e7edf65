<script setup lang="ts">
import { IconHandStop, IconHelp, IconPresentation } from '@tabler/icons-vue';
import { computed } from 'vue';
import { useAudience } from '../../board/audience';
import AskButton from '../../ask/AskButton.vue';
import LiveButton from '../../live/LiveButton.vue';
import { useDraft } from '../draft';
import { useLesson } from '../lesson';
import { useWholeLesson } from './whole-lesson';
import { usePens } from '../../board/pens/pens';
import { useRecordingNow } from '../recording-now';
import { useKeys } from './keys';
import { useNotices } from '../notices';
import { useDress } from './dress';
import { useSteps } from './steps';
import ActionButton from '../../controls/ActionButton.vue';
import KeptText from '../../controls/KeptText.vue';
import SetAsideRecording from '../../set-aside/SetAsideRecording.vue';
import MakingsStatus from '../../making/MakingsStatus.vue';
import OutboxStatus from '../../set-aside/OutboxStatus.vue';

/** The lesson's name, the steps of making it, and whether all of it is saved. */
const lesson = useLesson();
const whole = useWholeLesson();
const recording = useRecordingNow();
const pens = usePens();
const draft = useDraft();
const audience = useAudience();
const keys = useKeys();
const steps = useSteps();
const dress = useDress();
/** A student’s page is no stage, and what they make is made for nobody else. */
const isTeachers = computed(() => dress.now.wearer !== 'student');
const problem = useNotices().place('problem');

const title = computed(() => lesson.document?.title ?? '');
async function rename(to: string) {
  problem.value = await whole.rename(to);
}
</script>

<template>
  <header class="head">
    <router-link :to="{ name: 'home' }" class="home" :aria-label="isTeachers ? 'All lessons' : 'All tasks'">
      <img src="/kite.svg" alt="" />
    </router-link>
    <h1 class="visually-hidden">{{ title }}</h1>
    <kept-text
      v-if="dress.now.wearer === 'teacher'"
      class="title"
      :value="title"
      aria-label="Lesson name"
      maxlength="120"
      @keep="rename"
    />
    <!-- Whose work is marked is said below, to those who want to know. -->
    <p v-else class="title" aria-hidden="true">{{ dress.now.wearer === 'student' ? title : '' }}</p>
    <nav class="steps" aria-label="Steps">
      <button
        v-for="{ step, label } in dress.now.steps"
        :key="step"
        class="step"
        :aria-current="steps.now.value === step ? 'step' : undefined"
        :disabled="!recording.isIdle && step !== 'record'"
        @click="steps.go(step)"
      >
        {{ label }}
      </button>
    </nav>
    <outbox-status
      v-if="!recording.isOn && lesson.document"
      :lesson="lesson.document.id"
      :is-keeping="draft.isGathering || lesson.isEditing || recording.state === 'ending'"
    >
      <template #recording="{ item }"><set-aside-recording :item="item" /></template>
    </outbox-status>
    <makings-status v-if="isTeachers && !recording.isOn" />
    <action-button
      v-if="isTeachers"
      name="Audience window"
      title="A second window with the page alone, for a projector"
      :icon="IconPresentation"
      :pressed="audience.window !== null"
      @click="audience.toggle(title)"
    />
    <ask-button v-if="dress.now.wearer === 'teacher'" />
    <live-button v-if="isTeachers" />
    <action-button
      name="Swap sides for the other hand"
      :icon="IconHandStop"
      @click="pens.hand = pens.hand === 'left' ? 'right' : 'left'"
    />
    <action-button name="Keyboard shortcuts" :icon="IconHelp" @click="keys.isSheetOpen = true" />
  </header>
</template>

<style scoped>
.head {
  display: flex;
  gap: 0.75rem;
  align-items: center;
  padding: 0.5rem 1rem;
}

.home img {
  display: block;
  width: 34px;
}

.title {
  overflow: hidden;
  white-space: nowrap;
  margin: 0;
  flex: 1 1 8rem;
  min-width: 4rem;
  padding: 0.4rem 0.6rem;
  font: inherit;
  font-size: 1.15rem;
  font-weight: 650;
  color: inherit;
  text-overflow: ellipsis;
  background: transparent;
  border: 1px solid transparent;
  border-radius: 8px;
}

.title:hover,
.title:focus {
  background: var(--paper);
  border-color: var(--line);
}

.steps {
  display: flex;
  gap: 4px;
}

.step {
  min-height: 44px;
  padding: 0 1rem;
  font-weight: 600;
  color: var(--ink-soft);
  cursor: pointer;
  background: transparent;
  border: 0;
  border-bottom: 3px solid transparent;
}

.step:hover:not(:disabled) {
  color: var(--ink);
}

.step[aria-current] {
  color: var(--ink);
  border-bottom-color: var(--straw);
}

.step:disabled {
  opacity: 0.4;
  cursor: default;
}

@media (max-width: 900px) {
  .step {
    padding: 0 0.5rem;
  }
}

/* A phone held upright: the steps get a row of their own. */
@media (max-width: 640px) {
  .head {
    flex-wrap: wrap;
    gap: 2px;
    padding: 0.3rem 0.5rem 0;
  }

  .title {
    order: -1;
    flex: 1 1 0;
    min-width: 5rem;
    padding-inline: 0.4rem;
    font-size: 1rem;
  }

  .home {
    order: -2;
  }

  .steps {
    order: 1;
    width: 100%;
  }

  .step {
    flex: 1;
  }
}
</style>
