<script setup lang="ts">
import { watch } from 'vue';
import { useFilmOrders } from '../making/film/film-orders';
import { useSession } from './session';
import SignInAgain from './SignInAgain.vue';
import DriveDialog from '../drives/DriveDialog.vue';
import { useDrives } from '../drives/drives';
import { useEventListener } from '@vueuse/core';
import { useOutbox } from './outbox';
import { idle } from '../device/idle';
import Themed from './Themed.vue';

// What is only here so far waits for the next visit, but the school does not have it; what is on its way to a drive would not be there.
const outbox = useOutbox();
const drives = useDrives();
useEventListener(window, 'beforeunload', (event) => {
  if (outbox.secondsToSend > 0 || drives.areSent) event.preventDefault();
});

// Films that were ordered in a window that is gone go on in this one.
const session = useSession();
const films = useFilmOrders();
watch(
  () => session.teacher?.id,
  async (teacher) => {
    films.letGo();
    drives.letGo();
    await idle();
    if (teacher && teacher === session.teacher?.id) await films.takeOver(teacher);
  },
);

// A page that goes while encoders still call it takes its whole tab along in Chromium. What it makes goes on in the next one, or in this
// one when it is shown again.
useEventListener(window, 'pagehide', films.leave);
useEventListener(window, 'pageshow', ({ persisted }) => {
  if (persisted && session.teacher) void films.takeOver(session.teacher.id);
});
</script>

<template>
  <themed>
    <router-view v-slot="{ Component, route }">
      <!-- Each lesson has a screen of its own; Home is one, whatever is seen on it. -->
      <component :is="Component" :key="String(route.params.lessonId ?? route.matched[0]?.path)" />
    </router-view>
    <drive-dialog v-if="drives.asked" />
    <sign-in-again />
  </themed>
</template>
