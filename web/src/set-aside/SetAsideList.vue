<script setup lang="ts">
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { NButton, NPopconfirm } from 'naive-ui';
import { computed, useTemplateRef } from 'vue';
import type { SetAside } from '../outbox/set-aside';
import { useAttempt } from '../controls/attempt';
import { momentText } from '../look/time';
import { useOutbox } from '../app/outbox';

/** What the school has refused: what it is, why, and what can be done about it. Nothing of it goes by itself. */
const { lesson = null } = defineProps<{
  /** The lesson that is open. */
  lesson?: LessonId | null;
}>();

defineSlots<{
  /** What can be done with a recording of the lesson that is open. */
  recording?(props: { item: SetAside }): unknown;
}>();

const outbox = useOutbox();
const { problem, attempt } = useAttempt();

const NAMES: Record<SetAside['kind'], string> = {
  recording: 'A recording',
  changes: 'Changes to the pages',
  edit: 'An edit of the trail',
  file: 'A file',
  name: 'A new name of the lesson',
  'hand-in': 'What you handed in',
};
const items = computed(() => outbox.status.setAside);
const whenOf = ({ atMs }: SetAside) => momentText(atMs);

const chooser = useTemplateRef<HTMLInputElement>('chooser');
function chosen({ target }: Event) {
  const input = target as HTMLInputElement;
  const [file] = input.files ?? [];
  if (file) void attempt(() => outbox.bringBack(file));
  input.value = '';
}
</script>

<template>
  <section aria-label="Set aside">
    <template v-if="items.length > 0">
      <h3>Set aside</h3>
      <p class="soft">The school did not take these. They are safe on this device until you decide.</p>
    </template>
    <ul v-if="items.length > 0" class="list">
      <li v-for="item in items" :key="item.id">
        <span class="what"
          ><b>{{ item.name ?? NAMES[item.kind] }}</b> · {{ whenOf(item) }}</span
        >
        <span class="why">{{ item.why }}</span>
        <span class="ways">
          <n-button type="primary" @click="attempt(() => outbox.tryAgain(item))">Try again</n-button>
          <n-button @click="attempt(() => outbox.saveToFile(item))">Save to a file</n-button>
          <slot v-if="item.kind === 'recording' && item.lesson === lesson" name="recording" :item="item"></slot>
          <router-link
            v-if="item.lesson !== lesson"
            v-slot="{ navigate }"
            :to="{ name: 'lesson', params: { lessonId: item.lesson } }"
            custom
          >
            <n-button @click="navigate">Open its lesson</n-button>
          </router-link>
          <n-popconfirm
            positive-text="Delete it for good"
            negative-text="Keep it"
            @positive-click="attempt(() => outbox.discard(item))"
          >
            <template #trigger><n-button quaternary>Delete</n-button></template>
            This cannot be brought back, unless you have saved it to a file.
          </n-popconfirm>
        </span>
      </li>
    </ul>
    <p v-if="problem" class="warned" role="alert">{{ problem }}</p>
    <n-button text type="primary" @click="chooser?.click()">Bring back a saved file…</n-button>
    <input ref="chooser" type="file" accept=".zip" hidden aria-label="Saved file" @change="chosen" />
  </section>
</template>

<style scoped>
h3 {
  margin: 0.5rem 0 0.25rem;
  font-size: 1rem;
}

p {
  margin: 0 0 0.5rem;
}

.list {
  display: grid;
  gap: 0.75rem;
  padding: 0;
  margin: 0;
  list-style: none;
}

.list li {
  display: grid;
  gap: 0.25rem;
}

.why,
.soft {
  color: var(--ink-soft);
}

.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
}

.warned {
  color: var(--kite-deep);
}
</style>
