<script setup lang="ts">
import CodeForm from './CodeForm.vue';
import FollowedScreen from './FollowedScreen.vue';

/** What is at `/live`: a code is asked for. At `/live/CODE`: the page that is shown under it. */
const [, , code = ''] = location.pathname.split('/');
</script>

<template>
  <followed-screen v-if="code" :code="decodeURIComponent(code)" />
  <code-form v-else />
</template>
