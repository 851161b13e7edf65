<script setup lang="ts">
import { IconMicrophone, IconPencil, IconPlayerSkipForward, IconX } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { clockText } from '../look/time';
import { useRecording } from './recording';
import { useStretch } from '../trail/stretch';

/** Where on the trail to record: at its end, at the playhead, or a stretch of it anew. */
defineProps<{ playhead: number; isAtEnd: boolean }>();
const emit = defineEmits<{ toEnd: [] }>();

const recording = useRecording();
const stretch = useStretch();
</script>

<template>
  <div class="stretch" role="group" aria-label="Record a part again">
    <template v-if="stretch.ends">
      <span class="told">
        <b>{{ clockText(stretch.ends.from) }} to {{ clockText(stretch.ends.to) }}</b> is done again{{
          stretch.ends.from > 0 ? ', after a run-up' : ''
        }}.
      </span>
      <n-button title="The old ink plays while you speak" @click="recording.start(stretch.plan('re-speak'))">
        <template #icon><icon-microphone :size="20" /></template>New voice
      </n-button>
      <n-button title="The old voice plays while you write" @click="recording.start(stretch.plan('re-ink'))">
        <template #icon><icon-pencil :size="20" /></template>New ink
      </n-button>
      <n-button quaternary aria-label="Choose no stretch" @click="stretch.clear()">
        <template #icon><icon-x :size="20" /></template>
      </n-button>
    </template>
    <template v-else>
      <span class="told">
        {{
          isAtEnd ? 'You carry on at the end of the trail.' : `A take recorded now is put in at ${clockText(playhead)}.`
        }}
      </span>
      <n-button v-if="!isAtEnd" @click="emit('toEnd')">
        <template #icon><icon-player-skip-forward :size="20" /></template>To the end
      </n-button>
      <n-button @click="stretch.choose(playhead)">Choose a stretch</n-button>
      <n-button @click="stretch.choosePagePart(playhead)">This page’s part</n-button>
      <n-button @click="stretch.chooseAll()">All of it</n-button>
    </template>
    <slot />
  </div>
</template>

<style scoped>
.stretch {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  justify-content: flex-end;
}

.told {
  margin-right: auto;
  color: var(--ink-soft);
  white-space: nowrap;
}

b {
  color: var(--ink);
}

@media (max-width: 900px) {
  .stretch {
    flex-wrap: wrap;
    justify-content: flex-start;
  }

  .told {
    flex-basis: 100%;
    white-space: normal;
  }
}
</style>
