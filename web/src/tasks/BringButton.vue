<script setup lang="ts">
import type { TaskSummary } from '@kite-trail/core/contract/task';
import type { StudentId } from '@kite-trail/core/lesson/ids';
import { IconFileImport } from '@tabler/icons-vue';
import { useEventListener } from '@vueuse/core';
import { ref, shallowRef } from 'vue';
import ActionButton from '../controls/ActionButton.vue';
import BroughtDialog from './BroughtDialog.vue';

/** Work that came by mail or drive is picked, or dropped anywhere on the table. */
defineProps<{ task: TaskSummary; students: readonly { id: StudentId; name: string }[] }>();
const emit = defineEmits<{ brought: [] }>();

const files = shallowRef<readonly File[]>([]);
const picker = ref<HTMLInputElement>();

function picked() {
  files.value = [...(picker.value?.files ?? [])];
  picker.value!.value = '';
}

/** At the document, before it comes to the window, where Home, around the table, would make a lesson of them. */
useEventListener(document, 'drop', (event) => {
  const dropped = [...(event.dataTransfer?.files ?? [])];
  if (dropped.length === 0) return;
  event.preventDefault();
  files.value = dropped;
});

function done() {
  files.value = [];
  emit('brought');
}
</script>

<template>
  <action-button
    name="Bring in work that came otherwise"
    title="Bring in work that came by mail or drive; or drop it here"
    :icon="IconFileImport"
    @click="picker?.click()"
  />
  <input
    ref="picker"
    class="visually-hidden"
    type="file"
    multiple
    accept="application/pdf,image/*"
    tabindex="-1"
    aria-label="Work that came otherwise"
    @change="picked"
  />
  <brought-dialog v-if="files.length > 0" :task="task.id" :files="files" :students="students" @close="done" />
</template>
