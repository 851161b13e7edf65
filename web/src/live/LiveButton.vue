<script setup lang="ts">
import { IconBroadcast } from '@tabler/icons-vue';
import { computed } from 'vue';
import ActionButton from '../controls/ActionButton.vue';
import LiveDialog from './LiveDialog.vue';
import { useLive } from './live';

/** One touch shows the page live, and says under which code; while it does, all who look at the head see it, and how many follow. */
const live = useLive();
const title = computed(() =>
  live.isOn ? 'This page is shown live' : 'Show this page live: on the room’s computer, on students’ phones',
);
</script>

<template>
  <span class="live" :class="{ on: live.isOn }">
    <action-button
      name="Show this page live"
      :title="title"
      :icon="IconBroadcast"
      :pressed="live.isOn"
      :disabled="live.isBeginning"
      @click="live.present"
    />
    <span v-if="live.isOn" class="count" aria-hidden="true">{{
      live.isReached ? `Live ${live.followers}` : 'Live …'
    }}</span>
  </span>
  <live-dialog v-if="live.isPanelOpen" />
</template>

<style scoped>
.live {
  display: flex;
  align-items: center;
}

.count {
  padding: 0 0.6rem 0 0.4rem;
  font-weight: 650;
  white-space: nowrap;
}
</style>
