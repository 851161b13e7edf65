<script setup lang="ts">
import {
  IconBadgeCc,
  IconBookmark,
  IconClockPause,
  IconHelpHexagon,
  IconStack2,
  IconVersions,
  IconVolume,
} from '@tabler/icons-vue';
import { computed, type Component } from 'vue';
import { useDress } from '../lesson/frame/dress';
import { useSteps } from '../lesson/frame/steps';
import { useTrimming } from './trimming';

/** What can be opened beside the page while the trail is edited. */
const { panel } = useSteps();
const trimming = useTrimming();

const dress = useDress();

const ALL: Record<string, { label: string; sign: Component }> = {
  pauses: { label: 'Pauses', sign: IconClockPause },
  chapters: { label: 'Chapters', sign: IconBookmark },
  captions: { label: 'Captions', sign: IconBadgeCc },
  prompts: { label: 'Prompts', sign: IconHelpHexagon },
  sound: { label: 'Sound', sign: IconVolume },
  versions: { label: 'Versions', sign: IconVersions },
  takes: { label: 'Takes', sign: IconStack2 },
};
/** What is heard first and last is all that most students change. */
const SIMPLER = ['pauses', 'sound', 'takes'];
const panels = computed(() =>
  Object.entries(ALL).filter(([name]) => dress.now.wearer !== 'student' || SIMPLER.includes(name)),
);
</script>

<template>
  <div v-if="trimming.isOn" class="tools" role="group" aria-label="Panels">
    <button
      v-for="[name, { label, sign }] in panels"
      :key="name"
      class="tool"
      :aria-expanded="panel === name"
      @click="panel = panel === name ? null : name"
    >
      <component :is="sign" :size="22" stroke="1.75" />
      {{ label }}
    </button>
  </div>
</template>

<style scoped>
.tools {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px;
}

.tool {
  display: grid;
  gap: 2px;
  place-items: center;
  min-height: 56px;
  padding: 4px 2px;
  font-size: 0.9rem;
  cursor: pointer;
  background: var(--paper);
  border: 1.5px solid var(--line);
  border-radius: var(--radius);
}

.tool:hover {
  border-color: var(--ink-soft);
}

.tool[aria-expanded='true'] {
  background: var(--straw-pale);
  border-color: var(--straw);
}

@media (max-width: 640px) {
  .tools {
    display: flex;
  }

  .tool {
    min-width: 68px;
  }
}
</style>
