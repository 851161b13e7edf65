<script setup lang="ts">
import { IconArrowBarToDown, IconTrash } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { nextTick, ref } from 'vue';
import KeptText from '../../controls/KeptText.vue';
import SidePanel from '../../controls/SidePanel.vue';
import { clockText } from '../../look/time';
import { usePrompts } from './prompts';

/** Where playback halts with a question: each can be gone to, worded, answered, moved to the playhead and taken away. */
const props = defineProps<{ playhead: number }>();
const emit = defineEmits<{ close: []; seek: [samples: number] }>();

const prompts = usePrompts();
const list = ref<HTMLElement>();

/** The new question is there to be written over. */
async function add() {
  const id = prompts.add(props.playhead);
  await nextTick();
  const field = list.value?.querySelector<HTMLTextAreaElement>(`[data-prompt="${id}"] textarea`);
  field?.focus();
  field?.select();
}
</script>

<template>
  <side-panel name="Prompts" @close="emit('close')">
    <p class="note">
      A link stops here and asks, until the student goes on. What they answer stays on their device. Films do not stop.
    </p>
    <ol v-if="prompts.listed.length > 0" ref="list" class="rows">
      <li v-for="{ prompt, atSamples } in prompts.listed" :key="prompt.id" class="row prompt" :data-prompt="prompt.id">
        <div class="head">
          <button
            class="time"
            :aria-label="`Go to ${clockText(atSamples)}, ${prompt.question}`"
            @click="emit('seek', atSamples)"
          >
            {{ clockText(atSamples) }}
          </button>
          <span class="grow"></span>
          <n-button
            quaternary
            :aria-label="`Move the prompt at ${clockText(atSamples)} to the playhead`"
            title="To the playhead"
            @click="prompts.move(prompt.id, playhead)"
          >
            <template #icon><icon-arrow-bar-to-down :size="18" /></template>
          </n-button>
          <n-button
            quaternary
            :aria-label="`Take the prompt at ${clockText(atSamples)} away`"
            @click="prompts.drop(prompt.id)"
          >
            <template #icon><icon-trash :size="18" /></template>
          </n-button>
        </div>
        <label>
          Question
          <kept-text
            is-long
            rows="2"
            maxlength="500"
            dir="auto"
            :value="prompt.question"
            @keep="prompts.word(prompt.id, { question: $event })"
          />
        </label>
        <label>
          Your answer, if you want to show one
          <kept-text
            is-long
            rows="2"
            maxlength="2000"
            dir="auto"
            :value="prompt.answer"
            @keep="prompts.word(prompt.id, { answer: $event })"
          />
        </label>
      </li>
    </ol>
    <n-button type="primary" @click="add">Ask at {{ clockText(playhead) }}</n-button>
  </side-panel>
</template>

<style scoped src="../../controls/long-text.css"></style>
<style scoped>
.prompt {
  display: grid;
  gap: 0.35rem;
  align-items: stretch;
}

.head {
  display: flex;
  align-items: center;
}

.grow {
  flex: 1;
}

.time {
  min-width: 3.4rem;
  min-height: 44px;
  font-variant-numeric: tabular-nums;
  color: var(--tail);
  text-align: start;
  cursor: pointer;
  background: transparent;
  border: 0;
  border-radius: var(--radius);
}
</style>
