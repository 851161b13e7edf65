<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import KeyAgain from '../study/KeyAgain.vue';
import { useOutbox } from './outbox';
import Themed from './Themed.vue';

/** What students make lessons with: the same outbox, and nothing of a teacher's. */
const outbox = useOutbox();
useEventListener(window, 'beforeunload', (event) => {
  if (outbox.secondsToSend > 0) event.preventDefault();
});
</script>

<template>
  <themed>
    <router-view v-slot="{ Component, route }">
      <component :is="Component" :key="String(route.params.lessonId ?? route.matched[0]?.path)" />
    </router-view>
    <key-again />
  </themed>
</template>
