<script setup lang="ts">
import { useLesson } from '../lesson/lesson';
import { useSurface } from '../lesson/surface';
import ListenRow from '../trail/ListenRow.vue';
import { useListening } from '../trail/listening';

/** The lesson as those will see it with whom it is shared. */
const lesson = useLesson();
const listening = useListening();

useSurface().show(() => ({ moment: lesson.lengthSamples > 0 ? listening.moment : null, isWriting: false }));
</script>

<template>
  <listen-row @toggle="listening.toggle()" />
</template>
