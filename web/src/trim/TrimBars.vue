<script setup lang="ts">
import { useListening } from '../trail/listening';
import { useInkChoice } from './ink/ink-choice';
import InkBar from './ink/InkBar.vue';
import TrimBar from './TrimBar.vue';
import { useTrimming } from './trimming';

/** What can be done to what is chosen: to ink on the page, or to time on the trail. */
const listening = useListening();
const trimming = useTrimming();
const ink = useInkChoice();
</script>

<template>
  <template v-if="trimming.isOn">
    <ink-bar v-if="ink.chosen.length > 0" :playhead="listening.samples" />
    <trim-bar
      v-else
      :playhead="listening.samples"
      :kept="trimming.kept"
      @seek="listening.seek"
      @hear="listening.hear"
    />
  </template>
</template>
