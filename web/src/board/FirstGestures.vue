<script setup lang="ts">
import { IconHandTwoFingers, IconLine, IconPencil } from '@tabler/icons-vue';
import { computed } from 'vue';
import { useKeptSetting } from '../device/kept-setting';
import { useSurface } from '../lesson/surface';
import { onPageTouched } from './page-touched';
import { shownPage } from '@kite-trail/core/lesson/scene';

/** What a hand can do on the page, told once: it goes with the first touch. */
const GESTURES = [
  { icon: IconPencil, does: 'Write: pen, finger or mouse' },
  { icon: IconLine, does: 'Hold still at the end of a line: it becomes straight' },
  { icon: IconHandTwoFingers, does: 'Two fingers: move the page, see it larger' },
];
const surface = useSurface();
const told = useKeptSetting<'yes' | 'no'>('kite-trail-gestures-told', 'no');
const isTold = computed(
  () => told.value === 'yes' || !surface.isWritable || shownPage(surface.moment!.scene).pieces.length > 0,
);
// Whoever begins on a page that is written on has not been told yet.
onPageTouched(() => !isTold.value && (told.value = 'yes'));
</script>

<template>
  <ul v-if="!isTold" class="gestures on-paper" aria-label="On the page">
    <li v-for="one in GESTURES" :key="one.does"><component :is="one.icon" :size="34" stroke="1.4" />{{ one.does }}</li>
  </ul>
</template>

<style scoped>
/* It lies on the page and is in nobody's way. */
.gestures {
  position: absolute;
  inset: auto 0 12%;
  display: flex;
  flex-wrap: wrap;
  gap: 1rem 2.5rem;
  justify-content: center;
  padding: 0 1rem;
  margin: 0;
  color: var(--ink-soft);
  list-style: none;
  pointer-events: none;
}

li {
  display: grid;
  gap: 0.4rem;
  justify-items: center;
  width: 11rem;
  text-align: center;
}

@media (max-width: 640px) {
  .gestures {
    inset: auto 0 0;
    flex-wrap: nowrap;
    gap: 0.5rem;
    font-size: 0.85rem;
  }
}
</style>
