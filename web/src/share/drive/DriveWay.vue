<script setup lang="ts">
import { IconServer } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { useDrives } from '../../drives/drives';

/** What lies on the school's drives; what is made here is put there from where it is saved. */
const drives = useDrives();
</script>

<template>
  <div class="way">
    <h2><icon-server :size="22" /> Shared drive</h2>
    <p class="note">Whatever was made here can be put on {{ drives.all!.map(({ name }) => name).join(', ') }}.</p>
    <n-button @click="drives.asked = { of: '', file: null }">See what lies there</n-button>
  </div>
</template>

<style scoped src="../way.css"></style>
