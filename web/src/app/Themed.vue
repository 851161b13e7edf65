<script setup lang="ts">
import { createLocale, darkTheme, enUS, NConfigProvider } from 'naive-ui';
import { computed } from 'vue';
import { useRoomLight } from '../device/room-light';
import { themeOverrides } from './theme';

/** Gives all that lies in it the one look, in the light of the room. */
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
    <slot />
  </n-config-provider>
</template>
