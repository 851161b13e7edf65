<script setup lang="ts">
import type { Stretch } from '@kite-trail/core/trail/edit';
import { IconEar, IconX } from '@tabler/icons-vue';
import { NButton, NDropdown } from 'naive-ui';
import { computed } from 'vue';
import { clockText } from '../look/time';
import { useStretch } from '../trail/stretch';
import { useTrimming } from './trimming';

/** What can be done to the stretch of the trail that is chosen. */
const props = defineProps<{ chosen: Stretch; playhead: number }>();
const emit = defineEmits<{ seek: [samples: number]; hear: [from: number, to: number] }>();

const PACES = [2, 3, 4, 6, 8];
const paces = PACES.map((key) => ({ key, label: `${key} times` }));

const stretch = useStretch();
const trimming = useTrimming();

const isOutside = computed(() => props.playhead < props.chosen.fromSamples || props.playhead > props.chosen.toSamples);
const go = (samples: number | null) => samples !== null && emit('seek', samples);
</script>

<template>
  <div class="tools">
    <span class="told">
      <b>{{ clockText(chosen.fromSamples) }} to {{ clockText(chosen.toSamples) }}</b>
    </span>
    <n-button aria-label="Hear the stretch" @click="emit('hear', chosen.fromSamples, chosen.toSamples)">
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
    <n-button title="Everything before and behind goes" @click="go(trimming.keepChosen())">Keep only this</n-button>
    <n-button quaternary aria-label="Choose no stretch" @click="stretch.clear()">
      <template #icon><icon-x :size="20" /></template>
    </n-button>
  </div>
</template>
