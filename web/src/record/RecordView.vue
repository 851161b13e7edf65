<script setup lang="ts">
import { computed, onMounted, watch } from 'vue';
import PageBar from '../page-bar/PageBar.vue';
import { useLesson } from '../lesson/lesson';
import { useRecordingNow } from '../lesson/recording-now';
import { useSteps } from '../lesson/frame/steps';
import { useSurface } from '../lesson/surface';
import { useAudition } from '../trail/audition';
import { useListening } from '../trail/listening';
import { useStretch } from '../trail/stretch';
import TrailRow from '../trail/TrailRow.vue';
import TrailSection from '../trail/TrailSection.vue';
import TrailStrip from '../trail/TrailStrip.vue';
import { useOldInk } from './old-ink';
import { useRecordHere } from './record-here';
import { useDoneOver } from './done-over';
import { useRecording } from './recording';
import RecordingStatus from './RecordingStatus.vue';
import { useLeavingAsks } from './leaving';

/** Takes are recorded, each at the trail's end, somewhere in it, or in the place of a stretch. */
const lesson = useLesson();
const now = useRecordingNow();
const recording = useRecording();
const done = useDoneOver();
const listening = useListening();
const audition = useAudition();
const stretch = useStretch();
const here = useRecordHere();
const oldInk = useOldInk();
const steps = useSteps();
const { isLeaving } = useLeavingAsks();

const hasTrail = computed(() => lesson.lengthSamples > 0);
useSurface().show(() => {
  const isWriting = !now.isIdle || !here.isListeningBack;
  const played = hasTrail.value && !isWriting ? listening.moment : null;
  return { moment: oldInk.moment ?? played, isWriting };
});

// Whoever comes to write stops listening, and writes where the trail ends.
onMounted(listening.leave);
watch(
  () => now.state,
  (state) => state === 'counting' && listening.pause(),
);
// Whoever is where the trail ends stays there when another window adds to it.
watch(
  () => lesson.lengthSamples,
  (length, before) => listening.samples >= before && length > before && listening.seek(length),
);
// Where a part was done over, both takes are to be heard and one chosen; else the take is heard from its beginning.
watch(
  () => recording.taken,
  async () => {
    if (!hasTrail.value || isLeaving.value) return;
    if (done.over) return listening.seek(done.over.plan.fromSamples);
    const at = now.plan.kind === 'insert' ? now.plan.atSamples : 0;
    await steps.go('trim');
    listening.seek(at);
  },
);
</script>

<template>
  <trail-section v-if="!now.isIdle && now.state !== 'counting'" size="slim">
    <recording-status />
    <page-bar v-if="now.isOn && now.takesInk" quiet />
  </trail-section>
  <trail-section v-else-if="!hasTrail" size="slim"><page-bar /></trail-section>
  <trail-row v-else @toggle="listening.toggle()">
    <trail-strip
      :picture="listening.picture"
      :playhead="listening.samples"
      :ends="audition.other ? null : stretch.ends"
      between="stretch"
      @seek="listening.seek"
      @ends="stretch.ends = $event"
    />
  </trail-row>
</template>
