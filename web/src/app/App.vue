<script setup lang="ts">
import { createLocale, darkTheme, enUS, NConfigProvider } from 'naive-ui';
import { computed, watch } from 'vue';
import { useFilmOrders } from '../making/film/film-orders';
import { useSession } from './session';
import SignInAgain from './SignInAgain.vue';
import { useEventListener } from '@vueuse/core';
import { useOutbox } from './outbox';
import { idle } from '../device/idle';
import { useRoomLight } from '../device/room-light';
import { themeOverrides } from './theme';

// What is only here so far waits for the next visit, but the school does not have it.
const outbox = useOutbox();
useEventListener(window, 'beforeunload', (event) => outbox.secondsToSend > 0 && event.preventDefault());

// Films that were ordered in a window that is gone go on in this one.
const session = useSession();
const films = useFilmOrders();
watch(
  () => session.teacher?.id,
  async (teacher) => {
    films.letGo();
    await idle();
    if (teacher && teacher === session.teacher?.id) await films.takeOver(teacher);
  },
);

const { isDark, color } = useRoomLight();
const overrides = computed(() => themeOverrides(color.value));

/** A field says by its label what it is for: an empty one stays empty. */
const locale = createLocale({ Input: { placeholder: '' }, Select: { placeholder: '' } }, enUS);
</script>

<template>
  <n-config-provider
    :theme="isDark ? darkTheme : null"
    :theme-overrides="overrides"
    :locale="locale"
    preflight-style-disabled
  >
    <router-view v-slot="{ Component, route }">
      <!-- Each lesson has a screen of its own; Home is one, whatever is seen on it. -->
      <component :is="Component" :key="String(route.params.lessonId ?? route.matched[0]?.path)" />
    </router-view>
    <sign-in-again />
  </n-config-provider>
</template>
