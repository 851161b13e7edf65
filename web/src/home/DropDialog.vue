<script setup lang="ts">
import { NButton } from 'naive-ui';
import DialogCard from '../controls/DialogCard.vue';

/** Asks before something goes that cannot be brought back. */
defineProps<{ title: string; action: string }>();
const emit = defineEmits<{ close: []; drop: [] }>();
</script>

<template>
  <dialog-card :show="true" :title="title" style="max-width: 28rem" @update:show="emit('close')">
    <slot />
    <template #footer>
      <n-button @click="emit('close')">Keep</n-button>
      <n-button type="error" @click="emit('drop')">{{ action }}</n-button>
    </template>
  </dialog-card>
</template>
