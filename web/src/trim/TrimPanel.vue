<script setup lang="ts">
import { computed } from 'vue';
import { useLesson } from '../lesson/lesson';
import { useSteps } from '../lesson/frame/steps';
import { useListening } from '../trail/listening';
import TakesView from '../trail/TakesView.vue';
import CaptionsPanel from './panels/CaptionsPanel.vue';
import ChaptersPanel from './panels/ChaptersPanel.vue';
import PausesPanel from './panels/PausesPanel.vue';
import PromptsPanel from './panels/PromptsPanel.vue';
import SoundPanel from './panels/SoundPanel.vue';
import VersionsPanel from './panels/VersionsPanel.vue';

/** What lies open beside the page while the trail is edited. */
const lesson = useLesson();
const listening = useListening();
const { panel } = useSteps();
const shown = computed(() => (lesson.lengthSamples > 0 ? panel.value : null));
const close = () => (panel.value = null);
</script>

<template>
  <pauses-panel v-if="shown === 'pauses'" @close="close" @hear="listening.hear" />
  <chapters-panel
    v-else-if="shown === 'chapters'"
    :playhead="listening.samples"
    @close="close"
    @seek="listening.seek"
  />
  <captions-panel
    v-else-if="shown === 'captions'"
    :playhead="listening.samples"
    @close="close"
    @seek="listening.seek"
    @hear="listening.hear"
  />
  <prompts-panel v-else-if="shown === 'prompts'" :playhead="listening.samples" @close="close" @seek="listening.seek" />
  <sound-panel v-else-if="shown === 'sound'" @close="close" />
  <versions-panel v-else-if="shown === 'versions'" @close="close" />
  <takes-view v-else-if="shown === 'takes'" />
</template>
