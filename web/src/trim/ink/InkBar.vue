<script setup lang="ts">
import { IconX } from '@tabler/icons-vue';
import { NButton, NPopover } from 'naive-ui';
import { computed } from 'vue';
import { useInkChoice } from './ink-choice';
import { useLesson } from '../../lesson/lesson';
import { usePens } from '../../board/pens/pens';
import ColorDots from '../../controls/ColorDots.vue';
import TrailBar from '../../trail/TrailBar.vue';

/** What can be done to recorded ink that is chosen on the page. The voice stays as it is. */
defineProps<{ playhead: number }>();

const STEP_MS = 500;

const ink = useInkChoice();
const lesson = useLesson();
const pens = usePens();

const count = computed(() => ink.chosen.length);
const color = computed({ get: () => ink.color, set: (to: string) => ink.recolour(to) });
</script>

<template>
  <trail-bar name="Chosen ink">
    <span class="told">
      <b>{{ count }} {{ count === 1 ? 'stroke' : 'strokes' }}</b> chosen. Shift and touch for more, or draw a loop.
    </span>
    <template v-if="lesson.isWithServer">
      <n-button type="primary" title="As if it had never been written; the voice stays" @click="ink.remove()">
        Take out
      </n-button>
      <n-button title="It lies there when the lesson begins" @click="ink.fromStart()">From the start</n-button>
      <n-button aria-label="Half a second earlier" @click="ink.moveByMs(-STEP_MS)">Earlier</n-button>
      <n-button aria-label="Half a second later" @click="ink.moveByMs(STEP_MS)">Later</n-button>
      <n-button @click="ink.moveTo(playhead)">At the playhead</n-button>
      <n-button v-if="ink.isEdited" title="When and how it was written" @click="ink.restore()">As recorded</n-button>
      <n-popover trigger="click" placement="bottom-end">
        <template #trigger><n-button>Colour</n-button></template>
        <color-dots v-model="color" label="Colour of the strokes" :colors="pens.palette" />
      </n-popover>
    </template>
    <n-button quaternary aria-label="Choose no ink" @click="ink.clear()">
      <template #icon><icon-x :size="20" /></template>
    </n-button>
  </trail-bar>
</template>
