<script setup lang="ts">
import { IconBadgeCc, IconBookmark, IconClockPause, IconStack2, IconVersions, IconVolume } from '@tabler/icons-vue';
import type { Component } from 'vue';
import { TRIM_PANELS, type TrimPanel } from './trim-panels';

/** What can be opened beside the page while the trail is edited. */
const panel = defineModel<TrimPanel | null>({ required: true });

const SIGNS: Record<TrimPanel, Component> = {
  Pauses: IconClockPause,
  Chapters: IconBookmark,
  Captions: IconBadgeCc,
  Sound: IconVolume,
  Versions: IconVersions,
  Takes: IconStack2,
};
</script>

<template>
  <div class="tools" role="group" aria-label="Panels">
    <button
      v-for="one in TRIM_PANELS"
      :key="one"
      class="tool"
      :aria-expanded="panel === one"
      @click="panel = panel === one ? null : one"
    >
      <component :is="SIGNS[one]" :size="22" stroke="1.75" />
      {{ one }}
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
