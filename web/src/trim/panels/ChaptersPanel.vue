<script setup lang="ts">
import { IconArrowBarToDown, IconTrash } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { clockText } from '../../look/time';
import { useChapters } from './chapters';
import KeptText from '../../controls/KeptText.vue';
import SidePanel from '../../controls/SidePanel.vue';

/** The chapters: each can be gone to, named, moved to the playhead and taken away. */
const props = defineProps<{ playhead: number }>();
const emit = defineEmits<{ close: []; seek: [samples: number] }>();

const chapters = useChapters();

function add() {
  chapters.add(props.playhead, `Chapter at ${clockText(props.playhead)}`);
}
</script>

<template>
  <side-panel name="Chapters" @close="emit('close')">
    <p class="note">Every page turn begins a chapter. Name them as viewers should find them.</p>
    <ol class="rows">
      <li v-for="one in chapters.listed" :key="`${one.moment.take}${one.moment.atSamples}`" class="row">
        <button
          class="time"
          :aria-label="`Go to ${clockText(one.startSamples)}, ${one.title}`"
          @click="emit('seek', one.startSamples)"
        >
          {{ clockText(one.startSamples) }}
        </button>
        <kept-text
          class="name"
          :class="{ own: one.isOwn }"
          :value="one.title"
          maxlength="120"
          :aria-label="`Name of the chapter at ${clockText(one.startSamples)}`"
          @keep="chapters.rename(one, $event)"
        />
        <n-button
          quaternary
          :aria-label="`Move ${one.title} to the playhead`"
          title="To the playhead"
          @click="chapters.move(one, playhead)"
        >
          <template #icon><icon-arrow-bar-to-down :size="18" /></template>
        </n-button>
        <n-button quaternary :aria-label="`Take ${one.title} away`" @click="chapters.drop(one)">
          <template #icon><icon-trash :size="18" /></template>
        </n-button>
      </li>
    </ol>
    <n-button @click="add">Add a chapter at {{ clockText(playhead) }}</n-button>
  </side-panel>
</template>

<style scoped>
/* Names want the room. */
.rows .row {
  gap: 0;
  padding: 0.2rem 0.3rem;
}

.time {
  min-width: 3.4rem;
  min-height: 44px;
  font-variant-numeric: tabular-nums;
  color: var(--tail);
  cursor: pointer;
  background: transparent;
  border: 0;
  border-radius: var(--radius);
}

.name {
  flex: 1;
  min-width: 0;
  padding: 0.4rem;
  font: inherit;
  color: inherit;
  text-overflow: ellipsis;
  background: transparent;
  border: 1px solid transparent;
  border-radius: 8px;
}

.own {
  font-weight: 650;
}

.name:hover,
.name:focus {
  border-color: var(--line);
}
</style>
