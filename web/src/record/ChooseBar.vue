<script setup lang="ts">
import { planFor } from '@kite-trail/core/trail/plan';
import { programmeLength } from '@kite-trail/core/trail/programme';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { NButton } from 'naive-ui';
import { computed } from 'vue';
import { useAudition } from '../trail/audition';
import { useEditing } from '../lesson/edition/editing';
import { useLesson } from '../lesson/lesson';
import { useDoneOver } from './done-over';
import { useRecording } from './recording';

/** A part was just done over: both can be heard, and one is kept in the trail. The other stays among the takes. */
const emit = defineEmits<{ hear: [fromSamples: number, untilSamples: number] }>();

/** So much is heard around the part itself. */
const AROUND_SAMPLES = secondsToSamples(2);

const recording = useRecording();
const done = useDoneOver();
const lesson = useLesson();
const editing = useEditing();
const audition = useAudition();
const redone = computed(() => done.over!);
const growth = computed(() => programmeLength(redone.value.after) - programmeLength(redone.value.before));

function hear(which: 'before' | 'after') {
  const { plan, before } = redone.value;
  const length = programmeLength(plan.replaced) + (which === 'after' ? growth.value : 0);
  if (which === 'before') audition.hear('The one before', before);
  else audition.end();
  emit('hear', plan.fromSamples - AROUND_SAMPLES, plan.fromSamples + length + AROUND_SAMPLES);
}

function keep() {
  audition.end();
  done.over = null;
}

function goBack() {
  const { before } = redone.value;
  keep();
  void editing.play(before);
}

/** The same part once more: in the place of the take that was just made. */
function onceMore() {
  const { plan } = redone.value;
  const length = programmeLength(plan.replaced) + growth.value;
  keep();
  void recording.start(planFor(plan.kind, lesson.programme, plan.fromSamples, plan.fromSamples + length));
}
</script>

<template>
  <div class="choose" role="group" aria-label="Choose a take">
    <span class="told">Both takes are kept. Listen, and choose which one plays.</span>
    <n-button @click="hear('before')">Hear the one before</n-button>
    <n-button @click="hear('after')">Hear the new one</n-button>
    <n-button :disabled="!lesson.isWithServer" @click="goBack">Use the one before</n-button>
    <n-button @click="onceMore">Once more</n-button>
    <n-button type="primary" @click="keep">Use the new one</n-button>
  </div>
</template>

<style scoped>
.choose {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  justify-content: flex-end;
  padding: 0.5rem 1rem;
  margin: 0.5rem 1rem 0;
  background: var(--straw-pale);
  border-radius: var(--radius);
}

.told {
  margin-right: auto;
  white-space: nowrap;
}

@media (max-width: 900px) {
  .choose {
    flex-wrap: wrap;
    justify-content: flex-start;
  }

  .told {
    flex-basis: 100%;
    white-space: normal;
  }
}
</style>
