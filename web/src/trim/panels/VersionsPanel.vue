<script setup lang="ts">
import { IconTrash } from '@tabler/icons-vue';
import { NButton, NInput } from 'naive-ui';
import { ref } from 'vue';
import { clockText } from '../../look/time';
import { useLesson } from '../../lesson/lesson';
import { useVersions } from './versions';
import SidePanel from '../../controls/SidePanel.vue';
import ProblemText from '../../controls/ProblemText.vue';

/** Versions of the trail that were kept by name, and the way back to the beginning. */
const emit = defineEmits<{ close: [] }>();

const lesson = useLesson();
const versions = useVersions();
const name = ref('');

const DATE = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

async function keep() {
  await versions.keep(name.value);
  if (!versions.problem) name.value = '';
}
</script>

<template>
  <side-panel name="Versions" @close="emit('close')">
    <form class="keep" @submit.prevent="keep">
      <n-input
        v-model:value="name"
        placeholder="Such as: for the day skippers"
        :input-props="{ 'aria-label': 'Name of the version', maxlength: 80 }"
      />
      <n-button type="primary" attr-type="submit" :disabled="name.trim() === '' || !lesson.isWithServer">Keep</n-button>
    </form>
    <problem-text v-if="versions.problem">{{ versions.problem }}</problem-text>
    <p v-if="versions.listed.length === 0" class="note">Keep the trail as it is now by a name, and go on trying.</p>
    <ul v-else class="rows">
      <li v-for="one in versions.listed" :key="one.id" class="row">
        <span class="about">
          <b>{{ one.name }}</b> {{ clockText(one.lengthSamples) }} · {{ DATE.format(new Date(one.madeAt)) }}
        </span>
        <n-button size="small" :aria-label="`Use ${one.name}`" @click="versions.use(one.id)">Use</n-button>
        <n-button quaternary :aria-label="`Take ${one.name} away`" @click="versions.drop(one.id)">
          <template #icon><icon-trash :size="18" /></template>
        </n-button>
      </li>
    </ul>
    <n-button :disabled="!lesson.isWithServer" @click="versions.startOver()">Start over</n-button>
    <p class="note">
      Everything plays as it was recorded again. Chapters and captions stay, and it can be undone like any edit.
    </p>
  </side-panel>
</template>

<style scoped>
.keep {
  display: flex;
  gap: 0.5rem;
  align-items: center;
}

.about {
  flex: 1;
  min-width: 0;
  font-variant-numeric: tabular-nums;
  color: var(--ink-soft);
}

b {
  display: block;
  color: var(--ink);
  overflow-wrap: anywhere;
}
</style>
