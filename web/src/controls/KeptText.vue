<script setup lang="ts">
import { onBeforeUnmount, ref } from 'vue';

/**
 * A field whose text somebody keeps elsewhere. What is typed stays in it while the world around it changes, and is handed
 * over when the field is left, goes away, or nothing was typed for a second.
 */
const props = defineProps<{ value: string; isLong?: boolean }>();
const emit = defineEmits<{ keep: [text: string] }>();
const KEPT_AFTER_MS = 1000;

/** What is typed, until the field is left. */
const draft = ref<string | null>(null);
let timer = 0;

function type(event: Event) {
  draft.value = (event.target as HTMLInputElement | HTMLTextAreaElement).value;
  clearTimeout(timer);
  // Whoever has emptied a field is about to fill it: that is handed over only when the field is left.
  if (draft.value.trim() !== '') timer = window.setTimeout(keep, KEPT_AFTER_MS);
}

function keep() {
  clearTimeout(timer);
  if (draft.value !== null && draft.value !== props.value) emit('keep', draft.value);
}

function leave() {
  keep();
  draft.value = null;
}

onBeforeUnmount(keep);
</script>

<template>
  <component :is="isLong ? 'textarea' : 'input'" :value="draft ?? value" @input="type" @change="keep" @blur="leave" />
</template>
