<script setup lang="ts">
import { IconX } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed, onMounted, shallowRef } from 'vue';
import ActionButton from '../controls/ActionButton.vue';
import { useAttempt } from '../controls/attempt';
import ProblemText from '../controls/ProblemText.vue';
import { tasksApi } from '../server/tasks';

/** What a teacher often writes: put in by a touch, kept from what was just written. */
const { note } = defineProps<{ note: string }>();
const emit = defineEmits<{ put: [phrase: string] }>();

const LONGEST = 300;
const MOST = 60;
const phrases = shallowRef<readonly string[]>([]);
const { problem, attempt } = useAttempt();
onMounted(() => attempt(async () => (phrases.value = await tasksApi.phrases())));

const canKeep = computed(() => {
  const text = note.trim();
  return text !== '' && text.length <= LONGEST && phrases.value.length < MOST && !phrases.value.includes(text);
});
const keep = (now: readonly string[]) =>
  attempt(async () => {
    await tasksApi.keepPhrases(now);
    phrases.value = now;
  });
</script>

<template>
  <details class="bank">
    <summary>Phrases of your own</summary>
    <ul v-if="phrases.length > 0">
      <li v-for="phrase in phrases" :key="phrase">
        <button class="phrase" dir="auto" @click="emit('put', phrase)">{{ phrase }}</button>
        <action-button
          :name="`Forget “${phrase}”`"
          title="Forget it"
          :icon="IconX"
          @click="keep(phrases.filter((one) => one !== phrase))"
        />
      </li>
    </ul>
    <n-button :disabled="!canKeep" @click="keep([...phrases, note.trim()])">Keep the words above as one</n-button>
    <problem-text v-if="problem">{{ problem }}</problem-text>
  </details>
</template>

<style scoped>
summary {
  min-height: 44px;
  padding: 0.6rem 0;
  cursor: pointer;
}

ul {
  display: grid;
  gap: 0.3rem;
  padding: 0;
  margin: 0 0 0.6rem;
  list-style: none;
}

li {
  display: flex;
  align-items: center;
}

.phrase {
  flex: 1;
  min-width: 0;
  min-height: 44px;
  padding: 0.4rem 0.8rem;
  font: inherit;
  color: inherit;
  text-align: start;
  cursor: pointer;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: var(--radius);
}

.phrase:hover {
  border-color: var(--tail);
}
</style>
