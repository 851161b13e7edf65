<script setup lang="ts">
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { NButton, NDropdown } from 'naive-ui';
import { computed } from 'vue';
import { clockText } from '../look/time';
import { useTrimming } from './trimming';

/** What can be done to the trail at the playhead, and to its ends. */
const props = defineProps<{ playhead: number; length: number; kept: { from: number; to: number } | null }>();
const emit = defineEmits<{ seek: [samples: number]; hear: [from: number, to: number] }>();

/** So much is heard before and behind a splice. */
const AROUND_SAMPLES = secondsToSamples(2);
const STILL_SECONDS = [1, 2, 3, 5, 10];
const stills = STILL_SECONDS.map((key) => ({ key, label: `${key} s` }));

const trimming = useTrimming();

const isTrimmed = computed(() => props.kept !== null && (props.kept.from > 0 || props.kept.to < props.length));
const hasSplice = computed(() => trimming.splices.length > 0);

function hearSplice() {
  const away = (splice: number) => Math.abs(splice - props.playhead);
  const at = trimming.splices.reduce((best, one) => (away(one) < away(best) ? one : best));
  emit('hear', at - AROUND_SAMPLES, at + AROUND_SAMPLES);
}

const go = (samples: number) => emit('seek', samples);
</script>

<template>
  <div class="tools">
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
    <n-button v-if="hasSplice" @click="hearSplice">Hear the splice</n-button>
  </div>
</template>
