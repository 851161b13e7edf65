<script setup lang="ts">
import { NConfigProvider } from 'naive-ui';
import SignInAgain from './parts/SignInAgain.vue';
import { theme } from './look/theme';
</script>

<template>
  <n-config-provider :theme-overrides="theme" preflight-style-disabled>
    <router-view />
    <sign-in-again />
  </n-config-provider>
</template>
