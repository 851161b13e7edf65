<script setup lang="ts">
import { IconMessageQuestion } from '@tabler/icons-vue';
import { ref } from 'vue';
import ActionButton from '../controls/ActionButton.vue';
import { useRecordingNow } from '../lesson/recording-now';
import AskDialog from './AskDialog.vue';

/** Gives the page that is shown out as a question, and sees the answers as they are written. */
const recording = useRecordingNow();
const isOpen = ref(false);
</script>

<template>
  <action-button
    name="Ask the class"
    title="Ask the class: each answers on this page, and you see all answers"
    :icon="IconMessageQuestion"
    :disabled="!recording.isIdle"
    @click="isOpen = true"
  />
  <ask-dialog v-if="isOpen" @close="isOpen = false" />
</template>
