<script setup lang="ts">
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { IconArrowBackUp, IconArrowForwardUp, IconEar, IconX } from '@tabler/icons-vue';
import { NButton, NDropdown } from 'naive-ui';
import { computed } from 'vue';
import { clockText } from '../look/time';
import { useEditing } from '../stores/editing';
import { useLesson } from '../stores/lesson';
import { useStretch } from '../stores/stretch';
import { useTrimming } from '../stores/trimming';
import TrailBar from './TrailBar.vue';

/** What can be done to the trail at the playhead, or to the stretch that is chosen. */
const props = defineProps<{ playhead: number; kept: { from: number; to: number } | null }>();
const emit = defineEmits<{ seek: [samples: number]; hear: [from: number, to: number] }>();

/** So much is heard before and behind a splice. */
const AROUND_SAMPLES = secondsToSamples(2);
const STILL_SECONDS = [1, 2, 3, 5, 10];
const PACES = [2, 3, 4, 6, 8];

const lesson = useLesson();
const editing = useEditing();
const stretch = useStretch();
const trimming = useTrimming();

const isTrimmed = computed(() => props.kept !== null && (props.kept.from > 0 || props.kept.to < lesson.lengthSamples));
const isOutside = computed(() => {
  const { chosen } = trimming;
  return chosen !== null && (props.playhead < chosen.fromSamples || props.playhead > chosen.toSamples);
});
const nearestSplice = computed(() =>
  trimming.splices.reduce<number | null>(
    (best, one) => (best === null || Math.abs(one - props.playhead) < Math.abs(best - props.playhead) ? one : best),
    null,
  ),
);

function hearChosen() {
  const { fromSamples, toSamples } = trimming.chosen!;
  emit('hear', fromSamples, toSamples);
}
function hearSplice() {
  const at = nearestSplice.value!;
  emit('hear', at - AROUND_SAMPLES, at + AROUND_SAMPLES);
}
const go = (samples: number) => emit('seek', samples);

const stills = STILL_SECONDS.map((key) => ({ key, label: `${key} s` }));
const paces = PACES.map((key) => ({ key, label: `${key} times` }));
</script>

<template>
  <trail-bar name="Trim">
    <span v-if="!lesson.isWithServer" class="told" role="status">
      The recording is on its way to the server; then it can be trimmed.
    </span>
    <template v-else-if="trimming.chosen">
      <span class="told">
        <b>{{ clockText(trimming.chosen.fromSamples) }} to {{ clockText(trimming.chosen.toSamples) }}</b>
      </span>
      <n-button aria-label="Hear the stretch" @click="hearChosen">
        <template #icon><icon-ear :size="20" /></template>
      </n-button>
      <n-button
        type="primary"
        title="The time goes; what was written is there at once"
        @click="go(trimming.cutOut('keep'))"
      >
        Cut, keep ink
      </n-button>
      <n-button title="The time goes, and what was written in it" @click="go(trimming.cutOut('drop'))">
        Cut with ink
      </n-button>
      <n-button @click="go(trimming.silence())">{{ trimming.isSilenced ? 'Sound again' : 'Silence' }}</n-button>
      <n-dropdown trigger="click" :options="paces" @select="(pace: number) => go(trimming.quicken(pace))">
        <n-button title="Plays faster, without sound">Quicken</n-button>
      </n-dropdown>
      <n-button @click="go(trimming.repeat())">Repeat</n-button>
      <n-button
        :disabled="!isOutside"
        title="Put the playhead where the stretch is to go"
        @click="go(trimming.moveTo(playhead))"
      >
        Move to playhead
      </n-button>
      <n-button title="Everything before and behind goes" @click="go(trimming.keepOnly(trimming.chosen))">
        Keep only this
      </n-button>
      <n-button quaternary aria-label="Choose no stretch" @click="stretch.clear()">
        <template #icon><icon-x :size="20" /></template>
      </n-button>
    </template>
    <template v-else>
      <template v-if="isTrimmed && kept">
        <span class="told">
          Keeps {{ clockText(kept.from) }} to {{ clockText(kept.to) }}. What was written before stays on the page.
        </span>
        <n-button type="primary" @click="go(trimming.keepOnly({ fromSamples: kept.from, toSamples: kept.to }))">
          Trim
        </n-button>
      </template>
      <span v-else class="told">Drag along the trail to choose a stretch, or touch its ink.</span>
      <n-button title="Divides the trail at the playhead" @click="go(trimming.divide(playhead))">Split</n-button>
      <n-button @click="trimming.choosePart(playhead)">Choose this part</n-button>
      <n-dropdown
        trigger="click"
        :options="stills"
        @select="(seconds: number) => go(trimming.still(playhead, secondsToSamples(seconds)))"
      >
        <n-button title="The picture stands still at the playhead, in silence">Still pause</n-button>
      </n-dropdown>
      <n-button v-if="nearestSplice !== null" @click="hearSplice">Hear the splice</n-button>
    </template>
    <span class="steps" role="group" aria-label="Edits">
      <n-button :disabled="!editing.canUndo" aria-label="Undo edit" @click="editing.undo()">
        <icon-arrow-back-up :size="22" />
      </n-button>
      <n-button :disabled="!editing.canRedo" aria-label="Redo edit" @click="editing.redo()">
        <icon-arrow-forward-up :size="22" />
      </n-button>
    </span>
  </trail-bar>
</template>

<style scoped>
.steps {
  display: flex;
  gap: 0.4rem;
  margin-left: auto;
}
</style>
