<script setup lang="ts">
import { onMounted } from 'vue';
import { useLesson } from '../lesson/lesson';
import { useSurface } from '../lesson/surface';
import { useListening } from '../trail/listening';
import ListenRow from '../trail/ListenRow.vue';

/** The work as its teacher will see it. */
const lesson = useLesson();
const listening = useListening();

onMounted(listening.leave);
useSurface().show(() => ({ moment: lesson.lengthSamples > 0 ? listening.moment : null, isWriting: false }));
</script>

<template>
  <listen-row @toggle="listening.toggle()"
    ><p class="silent">Nothing is recorded: the pages alone are handed in.</p></listen-row
  >
</template>

<style scoped>
.silent {
  margin: 0;
  color: var(--ink-soft);
}
</style>
